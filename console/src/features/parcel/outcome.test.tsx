import { cleanup, render, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { Around, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { OutcomeCard } from './OutcomeCard'
import { ParcelCard } from './ParcelCard'

const swap = (kind: string, over: object = {}) =>
  ({
    swap: { id: 's-4', name: 'Ida Moreau', kind, isBusy: false, line: [{ station: 'staged', at: null }] },
    parcel: null,
    total: { onNew: null },
    ...over,
  }) as unknown as SwapSeen

const show = (card: React.ReactNode) => render(<Around>{card}</Around>)

const lost = (id: string, over: Partial<Schemas['LostComputer']> = {}): Schemas['LostComputer'] => ({
  swap: id,
  refresh: 'autumn',
  name: 'Ida Moreau',
  tag: `KB-${id}`,
  model: 'Tern 13',
  site: 'North Quay',
  lastSeen: '2026-11-20T10:00:00Z',
  lastTripAt: '2026-11-20T10:00:00Z',
  staged: { files: 1200, bytes: 3e9 },
  verified: true,
  openSnags: 2,
  refusal: null,
  ...over,
})

beforeEach(() => service.reset())
afterEach(() => cleanup())

describe('a rescue', () => {
  it('finds the lost computer by the name, and asks for its tag before the parcel serves', async () => {
    service.answers['GET /api/lost-computers'] = [lost('a-1'), lost('a-2', { refusal: 'its parcel is purged' })]
    service.answers['PUT /api/swaps/s-4/rescue'] = new Refusal(422, 'The old computer of a-1 is KB-a-1, not KB-9.')
    const user = userOfTest()
    show(<OutcomeCard seen={swap('rescue')} works leads />)
    expect((screen.getByLabelText(/Find it/) as HTMLInputElement).value).toBe('Moreau')
    const [serves, cannot] = await screen.findAllByRole('listitem')
    expect(serves?.textContent).toContain('2 snags open')
    expect(cannot?.textContent).toContain('It cannot serve: its parcel is purged')
    expect(
      within(cannot as HTMLElement)
        .getByRole('button')
        .hasAttribute('disabled'),
    ).toBe(true)
    await user.click(within(serves as HTMLElement).getByRole('button'))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByRole('textbox'), 'KB-9')
    await user.click(within(dialog).getByRole('button', { name: 'Let it serve' }))
    await within(dialog).findByText(/not KB-9/)
    expect((within(dialog).getByRole('textbox') as HTMLInputElement).value).toBe('KB-9')
    expect(service.changes()).toMatchObject([{ path: '/api/swaps/s-4/rescue', body: { from: 'a-1', tag: 'KB-9' } }])
  })

  it('tells whose parcel serves and what is lost, and offers nothing to who does not lead', () => {
    show(
      <OutcomeCard
        seen={swap('rescue', {
          rescue: { from: 'a-1', name: 'Ida Moreau', tag: 'KB-1', lastTripAt: null, words: 'What changed after is lost.' },
        })}
        works
        leads={false}
      />,
    )
    expect(screen.getByText(/Served by the parcel of a-1/).textContent).toContain('What changed after is lost.')
    expect(screen.queryByRole('textbox')).toBeNull()
  })
})

describe('a leave', () => {
  const to = { person: 'k3', name: 'Per Lunde', tag: null, acceptedBy: null, acceptedAt: null }

  it('is accepted only once something is staged', async () => {
    service.answers['POST /api/swaps/s-4/receiver/acceptance'] = { ...to, acceptedAt: '2026-11-26T10:00:00Z' }
    const user = userOfTest()
    show(<OutcomeCard seen={swap('leave', { handingOver: to })} works leads={false} />)
    expect(screen.getByRole('button', { name: 'Per Lunde accepts it' }).hasAttribute('disabled')).toBe(true)
    cleanup()
    show(<OutcomeCard seen={swap('leave', { handingOver: to, parcel: { trips: 1 } })} works leads={false} />)
    await user.click(screen.getByRole('button', { name: 'Per Lunde accepts it' }))
    expect(service.changes()).toMatchObject([{ path: '/api/swaps/s-4/receiver/acceptance' }])
  })

  it('names another person without losing what was typed when that is refused', async () => {
    service.answers['PUT /api/swaps/s-4/receiver'] = new Refusal(422, "Nobody with the key 'k99' is in the roster.")
    const user = userOfTest()
    show(<OutcomeCard seen={swap('leave', { handingOver: null })} works leads />)
    await user.click(screen.getByRole('button', { name: 'Name somebody…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/Person/), 'k99')
    await user.click(within(dialog).getByRole('button', { name: 'Save' }))
    await within(dialog).findByText(/k99/)
    expect((within(dialog).getByLabelText(/Person/) as HTMLInputElement).value).toBe('k99')
  })
})

describe('a swap with nothing staged', () => {
  it('offers a coordinator to adopt a folder, and tells a technician who can', async () => {
    service.answers['POST /api/swaps/s-4/orders'] = {}
    const user = userOfTest()
    const technicians = show(<ParcelCard seen={swap('renew')} works />)
    expect(screen.queryByRole('button', { name: 'Adopt a folder…' })).toBeNull()
    expect(screen.getByText(/a coordinator can/)).toBeTruthy()
    technicians.unmount()
    show(<ParcelCard seen={swap('renew')} works leads />)
    await user.click(screen.getByRole('button', { name: 'Adopt a folder…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByRole('textbox'), 'Old shares/Ida')
    await user.click(within(dialog).getByRole('button', { name: 'Order it' }))
    expect(service.changes()).toMatchObject([{ body: { kind: 'adopt', folder: 'Old shares/Ida' } }])
  })
})
