import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { SwapListed } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { SwapsPage } from './SwapsPage'

const swap = (number: number) =>
  ({
    id: `spring-000${number}`,
    person: `k${number}`,
    name: `Person ${number}`,
    site: 'North Quay',
    room: null,
    kind: 'renew',
    oldTag: `KB-${number}`,
    newTag: null,
    line: [],
    next: 0,
    sign: { sign: 'ahead', words: 'Not begun', since: null },
    moving: null,
    appointment: null,
    openSnags: 0,
    isBusy: false,
  }) as unknown as SwapListed

const open = async (search: Parameters<typeof SwapsPage>[0]['search'] = {}, role = 'coordinator') => {
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [] }
  const router = showPage('/swaps', () => <SwapsPage search={search} />, ['/swaps/$swap', '/roster'])
  await screen.findByText(/in this refresh|found/)
  return router
}
const grid = () => screen.getByRole('grid')

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/refreshes/spring/swaps': { items: [1, 2, 3].map(swap), next: null, total: 3 },
    'GET /api/refreshes/spring/sites': [{ key: 'North Quay', name: 'North Quay' }],
    'GET /api/refreshes/spring/world': { waves: [], technicians: [{ key: 'noor', name: 'Noor Haddad' }] },
  })
})
afterEach(() => cleanup())

describe('all swaps', () => {
  it('are chosen by arrows and opened by Enter', async () => {
    const router = await open()
    const user = userOfTest()
    grid().focus()
    await user.keyboard('{ArrowDown}{ArrowDown}{ArrowDown}{ArrowUp}{Enter}')
    await waitFor(() => expect(router.state.location.pathname).toBe('/swaps/spring-0002'))
  })

  it('are looked for by a stroke on the keyboard, which writes nothing into a field', async () => {
    await open()
    const user = userOfTest()
    const box = screen.getByRole('searchbox')
    grid().focus()
    await user.keyboard('/')
    expect(document.activeElement).toBe(box)
    await user.keyboard('a/b')
    expect((box as HTMLInputElement).value).toBe('a/b')
  })

  it('are found by what the address says after a pause, and not with each letter', async () => {
    const router = await open()
    await userOfTest().type(screen.getByRole('searchbox'), 'ida')
    await waitFor(() => expect(router.state.location.search).toEqual({ q: 'ida' }))
    await userOfTest().selectOptions(screen.getByLabelText('Next station'), 'Next: Staged')
    await waitFor(() => expect(router.state.location.search).toEqual({ q: 'ida', next: 'staged' }))
  })

  it.each([
    [{ q: 'nobody' }, /Nothing fits. Take a filter off/],
    [{}, /No swaps yet/],
  ])('say what to do when there is none: %o', async (search, words) => {
    service.answers['GET /api/refreshes/spring/swaps'] = { items: [], next: null, total: 0 }
    await open(search)
    await screen.findByText(words)
  })

  it('are told to planning together as they were found, only what was filled in, and what was typed stays', async () => {
    service.answers['POST /api/refreshes/spring/swaps/edits'] = new Refusal(422, "'whenever' is no time.")
    await open()
    const user = userOfTest()
    await user.click(screen.getByRole('button', { name: 'For planning…' }))
    const dialog = await screen.findByRole('dialog', { name: 'Tell planning about 3 swaps' })
    await user.type(within(dialog).getByLabelText('Weight'), '8')
    await user.type(within(dialog).getByLabelText('Free'), 'whenever')
    await user.click(within(dialog).getByRole('button', { name: 'Change them' }))
    await within(dialog).findByText("'whenever' is no time.")
    expect((within(dialog).getByLabelText('Free') as HTMLTextAreaElement).value).toBe('whenever')
    expect(service.changes().at(-1)?.body).toMatchObject({ weight: 8, free: ['whenever'], wave: null, skills: null, unpin: false })
  })

  it('are told to planning by a coordinator only', async () => {
    await open({}, 'technician')
    expect(screen.queryByRole('button', { name: 'For planning…' })).toBeNull()
  })
})
