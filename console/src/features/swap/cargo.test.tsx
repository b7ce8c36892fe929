import { render, screen, within } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { Around, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { CargoCard } from './CargoCard'

const place = (over: Partial<Schemas['PlaceFound']>): Schemas['PlaceFound'] => ({
  account: '',
  home: '',
  kind: 'folder',
  rule: '',
  name: 'Documents',
  path: 'Documents',
  files: { files: 12, bytes: 3_400 },
  byNameOnly: { files: 0, bytes: 0 },
  newest: '2026-06-13T08:00:00Z',
  needs: null,
  whose: null,
  of: null,
  proof: null,
  isLeftOut: false,
  at: '',
  ...over,
})
const inventory: Schemas['InventorySeen'] = {
  at: '2026-12-07T09:00:00Z',
  total: { files: 40, bytes: 9_000 },
  largestBytes: 10,
  diskBytes: null,
  freeBytes: null,
  places: [
    place({}),
    place({ isLeftOut: true, kind: 'cloud', name: 'Cloud drive', path: 'Cloud', whose: 'person' }),
    place({ isLeftOut: true, kind: 'clutter', name: 'Caches', path: '.cache', files: { files: 16, bytes: 5 } }),
    place({ kind: 'unusual', name: 'Beside the folders', path: '' }),
  ],
  programs: [{ name: 'Berth Planner', version: '6.2', source: 'shipped list' }],
  running: [],
  remarks: ['12 files in Cloud are in a cloud already.'],
  before: { at: '2026-12-01T09:00:00Z', total: { files: 30, bytes: 7_000 } },
}
const list = (lines: Schemas['CarryLine'][], words = '12 files come along.', fits = true): Schemas['CarryListSeen'] => ({
  lines,
  whole: [],
  first: [],
  review: {
    all: { files: 40, bytes: 9_000 },
    carried: { files: 12, bytes: 1 },
    leftOut: { files: 28, bytes: 1 },
    tripMinutes: 1,
    roomBytes: null,
    fits,
    words,
  },
})
const byRule = { path: 'Cloud', choice: 'leave-out', reason: 'in a cloud already', by: null, at: null, files: null }
const seen = (restored = false) =>
  ({
    swap: {
      id: 's-1',
      line: [
        { station: 'surveyed', at: '2026-12-07T09:00:00Z' },
        ...(restored ? [{ station: 'restored', at: '2026-12-08T09:00:00Z' }] : []),
      ],
    },
  }) as unknown as SwapSeen

let user: ReturnType<typeof userOfTest>
async function show(works = true, restored = false) {
  user = userOfTest()
  render(
    <Around>
      <CargoCard seen={seen(restored)} works={works} />
    </Around>,
  )
  await screen.findByText('What comes along')
}
/** The service takes the next decision, and tells of it whoever asks again. */
function decided(next: Schemas['CarryListSeen']) {
  service.answers['PUT /api/swaps/s-1/carry-list'] = () => {
    service.answers['GET /api/swaps/s-1/carry-list'] = next
    return next
  }
}
const choice = (path: string) => screen.getByLabelText<HTMLSelectElement>(`${path}: comes along or stays`)

beforeEach(() => {
  service.reset()
  service.answers['GET /api/swaps/s-1/inventory'] = inventory
  service.answers['GET /api/swaps/s-1/carry-list'] = list([byRule])
})

describe('what comes along', () => {
  it('says what rules decided, what is worth knowing and what has grown', async () => {
    await show()
    expect(screen.getByText('12 files come along.')).toBeVisible()
    expect(within(screen.getByLabelText('To know before carrying')).getByText(/in a cloud already/)).toBeVisible()
    expect(screen.getByText(/\+2 kB since/)).toBeVisible()
    expect([choice('Documents').value, choice('Cloud').value]).toEqual(['carry', 'leave-out'])
    expect(screen.queryByText('.cache')).toBeNull()
    await user.click(screen.getByRole('button', { name: /Show the clutter \(16 files\)/ }))
    expect(choice('.cache').value).toBe('leave-out')
  })

  it('is decided at once where no reason is needed', async () => {
    decided(list([{ ...byRule, choice: 'carry', reason: '', by: 'Kit' }]))
    await show()
    await user.selectOptions(choice('Cloud'), 'carry')
    expect(service.changes()).toMatchObject([{ body: { decisions: [{ path: 'Cloud', choice: 'carry' }] } }])
    expect(await screen.findByText('Kit')).toBeVisible()
  })

  it('stays with a reason, which is kept in the dialog when the service refuses it', async () => {
    service.answers['PUT /api/swaps/s-1/carry-list'] = new Refusal(422, 'It is a part of a library.')
    await show()
    await user.selectOptions(choice('Documents'), 'leave-out')
    const leave = screen.getByRole('button', { name: 'Leave it behind' })
    expect(leave).toBeDisabled()
    await user.type(screen.getByLabelText(/Why does it stay/), 'on the share')
    await user.click(leave)
    expect(await screen.findByText('It is a part of a library.')).toBeVisible()
    expect(screen.getByLabelText(/Why does it stay/)).toHaveValue('on the share')
    decided(list([{ ...byRule, path: 'Documents', reason: 'on the share', by: 'Kit' }], 'Less comes along.'))
    await user.click(leave)
    expect(await screen.findByText('Less comes along.')).toBeVisible()
    expect(service.changes().at(-1)?.body).toEqual({ decisions: [{ path: 'Documents', choice: 'leave-out', reason: 'on the share' }] })
  })

  it('takes any other folder, and shows what was decided about one that no survey knows', async () => {
    decided(list([byRule, { path: 'Documents/Old', choice: 'leave-out', reason: 'old', by: 'Kit', at: null, files: null }]))
    await show()
    await user.click(screen.getByRole('button', { name: 'Leave another folder…' }))
    await user.type(screen.getByLabelText(/^Folder/), '/Documents/Old/')
    await user.type(screen.getByLabelText(/Why does it stay/), 'old')
    await user.click(screen.getByRole('button', { name: 'Leave it behind' }))
    expect(await screen.findByText('Documents/Old')).toBeVisible()
    expect(service.changes()[0]?.body).toMatchObject({ decisions: [{ path: 'Documents/Old' }] })
    expect(choice('Documents/Old').value).toBe('leave-out')
  })

  it('is only read once all is restored, or by who may not work here', async () => {
    await show(true, true)
    expect(screen.queryByRole('combobox')).toBeNull()
    expect(screen.getAllByText('comes along').length).toBeGreaterThan(0)
    expect(screen.queryByRole('button', { name: 'Leave another folder…' })).toBeNull()
  })

  it('says loudly when it does not fit', async () => {
    service.answers['GET /api/swaps/s-1/carry-list'] = list([byRule], 'Only 2 GB are free there.', false)
    await show(false)
    expect(screen.getByText(/Only 2 GB are free there/).className).toContain('sign-stopped')
  })
})
