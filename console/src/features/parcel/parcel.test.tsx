import { cleanup, render, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { Around, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { ParcelCard } from './ParcelCard'

const hold = (over: Partial<Schemas['HoldSeen']> = {}): Schemas['HoldSeen'] => ({
  until: null,
  missing: [],
  depotEnds: null,
  alarm: null,
  purgedAt: null,
  ...over,
})
const seen = (h: Schemas['HoldSeen']) =>
  ({
    swap: { id: 's-1', isBusy: false, line: [{ station: 'restored', at: null }] },
    parcel: { depot: 'Cloud', address: 'http://c/', name: 'spring/Ida 1', trips: 2, verified: true, sealed: true, hold: h },
    total: { onNew: null },
  }) as unknown as SwapSeen

const show = (h: Schemas['HoldSeen']) =>
  render(
    <Around>
      <ParcelCard seen={seen(h)} works />
    </Around>,
  )

const landing: Schemas['LandingSeen'] = {
  plan: { accounts: [{ from: 'ida', to: 'imoreau' }], folders: [], first: ['Desktop'], clash: 'stay', clashes: [] },
  by: 'kit',
  at: null,
  foreseen: null,
}

beforeEach(() => {
  service.reset()
  service.answers['GET /api/swaps/s-1/landing'] = landing
})
afterEach(() => cleanup())

describe('the parcel', () => {
  it('says why it may not be purged, and shouts where its depot ends too soon', async () => {
    show(hold({ missing: ['The swap is not signed off by its technician.'], alarm: 'The depot deletes by itself on 2026-12-20.' }))
    expect(screen.getByText(/Not to be purged yet. The swap is not signed off/)).toBeTruthy()
    expect(screen.getByRole('alert').textContent).toContain('deletes by itself')
    expect(screen.queryByRole('button', { name: 'Purge…' })).toBeNull()
    await screen.findByText(/account ida in the home of imoreau/)
  })

  it('that a first trip has begun can be gone on with or purged, and lands only as a rescue', () => {
    const begun = (kind: string, isBusy = false) => {
      const s = seen(hold())
      return { ...s, swap: { ...s.swap, kind, isBusy }, parcel: { ...s.parcel, trips: 0, begun: true } } as unknown as SwapSeen
    }
    const draw = (s: SwapSeen) => (
      <Around>
        <ParcelCard seen={s} works />
      </Around>
    )
    const { rerender } = render(draw(begun('renew')))
    expect(screen.getByText(/goes on where it broke off/)).toBeTruthy()
    expect(screen.queryByRole('button', { name: 'Restore a part…' })).toBeNull()
    rerender(draw(begun('renew', true)))
    expect(screen.getByText(/under way, or waits/)).toBeTruthy()
    expect(screen.getByRole('button', { name: 'Purge…' }).hasAttribute('disabled')).toBe(true)
    rerender(draw(begun('rescue')))
    expect(screen.getByRole('button', { name: 'Restore a part…' })).toBeTruthy()
  })

  it('is purged only by its own name', async () => {
    service.answers['POST /api/swaps/s-1/orders'] = {}
    const user = userOfTest()
    show(hold())
    await user.click(screen.getByRole('button', { name: 'Purge…' }))
    const dialog = await screen.findByRole('dialog')
    const purge = within(dialog).getByRole('button', { name: 'Purge' })
    await user.type(within(dialog).getByRole('textbox'), 'spring/Ida 2')
    expect(purge.hasAttribute('disabled')).toBe(true)
    await user.type(within(dialog).getByRole('textbox'), '{Backspace}1')
    await user.click(purge)
    expect(service.changes()).toMatchObject([{ path: '/api/swaps/s-1/orders', body: { kind: 'purge', confirm: 'spring/Ida 1' } }])
  })

  it('lands where the plan says: opened and saved without a change it is the same, and a refusal keeps what was typed', async () => {
    service.answers['PUT /api/swaps/s-1/landing'] = landing
    const user = userOfTest()
    show(hold())
    await screen.findByText(/account ida/)
    await user.click(screen.getByRole('button', { name: 'Where it lands…' }))
    await user.click(within(await screen.findByRole('dialog')).getByRole('button', { name: 'Save' }))
    expect(service.changes()[0]?.body).toEqual(landing.plan)
    service.answers['PUT /api/swaps/s-1/landing'] = new Refusal(422, "'../x' is no path.")
    await user.click(screen.getByRole('button', { name: 'Where it lands…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByRole('textbox', { name: /Folders that land elsewhere/ }), 'Pictures = ../x')
    await user.click(within(dialog).getByRole('button', { name: 'Save' }))
    await within(dialog).findByText("'../x' is no path.")
    expect(service.changes().at(-1)?.body).toMatchObject({ folders: [{ from: 'Pictures', to: '../x' }] })
  })

  it('brings a part once more', async () => {
    service.answers['POST /api/swaps/s-1/orders'] = {}
    const user = userOfTest()
    show(hold({ missing: ['x'] }))
    await user.click(screen.getByRole('button', { name: 'Restore a part…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByRole('textbox'), 'Documents/a{Enter}  {Enter}Pictures')
    await user.click(within(dialog).getByRole('button', { name: 'Order it' }))
    expect(service.changes()[0]?.body).toEqual({ kind: 'part-restore', only: ['Documents/a', 'Pictures'] })
  })
})
