import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { OldComputerCard } from './OldComputerCard'
import { OldComputersPage } from './OldComputersPage'

const old = (tag: string, over: Partial<Schemas['OldComputerSeen']> = {}): Schemas['OldComputerSeen'] => ({
  tag,
  model: null,
  swap: `spring-${tag}`,
  name: `Person of ${tag}`,
  site: 'North Quay',
  kind: 'renew',
  state: 'held',
  words: 'Workshop, shelf 3',
  holder: null,
  place: 'Workshop, shelf 3',
  pallet: null,
  since: null,
  wipeFrom: null,
  missing: [],
  alone: false,
  wipe: null,
  end: null,
  endedTo: null,
  ...over,
})
const wiped: Schemas['WipeSeen'] = { at: '2026-12-07T09:00:00Z', by: 'noor', method: 'three passes', result: 'done', evidence: 'W-0117' }

const page = async (role = 'coordinator') => {
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [] }
  showPage('/old-computers', OldComputersPage, ['/swaps/$swap'])
  await screen.findByText('KB-1')
}
const row = (tag: string) => screen.getByText(tag).closest('li') as HTMLElement

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/refreshes/spring/old-computers': { items: [old('KB-1'), old('KB-2')], next: null, total: 2 },
    'GET /api/refreshes/spring/pallets': [{ name: 'P-07', computers: 2, wiped: 1, gone: 0, since: null }],
  })
})
afterEach(() => cleanup())

describe('old computers', () => {
  it('say what is next with each, and how many may be wiped now', async () => {
    service.answers['GET /api/refreshes/spring/old-computers'] = {
      items: [
        old('KB-1', { state: 'may-be-wiped' }),
        old('KB-2', { missing: ['held until 21 Dec'], wipeFrom: '2026-12-21' }),
        old('KB-3', { missing: ['Ida has not accepted', 'a follow-up holds it'] }),
        old('KB-4', { state: 'wiped', wipe: wiped }),
      ],
      next: null,
      total: 4,
    }
    await page()
    expect(screen.getByText('1 may be wiped now')).toBeTruthy()
    expect(row('KB-1').textContent).toContain('nothing stands in the way')
    expect(row('KB-2').textContent).toMatch(/held until .*21 Dec/)
    expect(row('KB-3').textContent).toContain('Ida has not accepted')
    expect(row('KB-4').textContent).toContain('three passes; W-0117')
  })

  it('are fetched page by page, and each is there once', async () => {
    service.answers['GET /api/refreshes/spring/old-computers'] = { items: [old('KB-1')], next: 'second', total: 2 }
    const user = userOfTest()
    await page()
    service.answers['GET /api/refreshes/spring/old-computers'] = { items: [old('KB-2')], next: null, total: 2 }
    await user.click(screen.getByRole('button', { name: 'More' }))
    await screen.findByText('KB-2')
    expect(screen.getAllByText(/^KB-/).map((e) => e.textContent)).toEqual(['KB-1', 'KB-2'])
    expect(screen.queryByRole('button', { name: 'More' })).toBeNull()
  })

  it('leave with their pallet by how and to whom, and what keeps it here is said in the dialog', async () => {
    service.answers['POST /api/refreshes/spring/pallets/P-07/departure'] = new Refusal(409, 'KB-2 is not wiped.')
    const user = userOfTest()
    await page()
    await user.click(await screen.findByRole('button', { name: 'Send off…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/To whom/), 'the leasing company')
    await user.click(within(dialog).getByRole('button', { name: 'It leaves' }))
    await within(dialog).findByText('KB-2 is not wiped.')
    expect((within(dialog).getByLabelText(/To whom/) as HTMLInputElement).value).toBe('the leasing company')
    expect(service.changes().at(-1)?.body).toEqual({ as: 'returned', to: 'the leasing company' })
  })

  it('are sent off by a coordinator only', async () => {
    await page('technician')
    await screen.findByText('1 of 2 wiped')
    expect(screen.queryByRole('button', { name: 'Send off…' })).toBeNull()
  })
})

describe('the old computer of one swap', () => {
  const card = (over: Partial<Schemas['OldComputerSeen']> = {}) =>
    showPage('/card', () => <OldComputerCard seen={{ oldComputer: old('KB-1', over) } as unknown as SwapSeen} works />)

  it('cannot be recorded as wiped while something stands in the way, and says what', async () => {
    card({ missing: ['Ida Moreau has not accepted.'] })
    expect((await screen.findByRole('button', { name: 'Record its wipe…' })).hasAttribute('disabled')).toBe(true)
    expect(screen.getByText('Ida Moreau has not accepted.')).toBeTruthy()
  })

  it('is wiped by a method and with a proof, neither of them blank', async () => {
    service.answers['POST /api/refreshes/spring/old-computers/KB-1/wipe'] = old('KB-1', { state: 'wiped', wipe: wiped })
    const user = userOfTest()
    card({ state: 'may-be-wiped' })
    await user.click(await screen.findByRole('button', { name: 'Record its wipe…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/How/), 'three passes')
    await user.type(within(dialog).getByLabelText(/What proves it/), '  ')
    expect(within(dialog).getByRole('button', { name: 'Record it' }).hasAttribute('disabled')).toBe(true)
    await user.type(within(dialog).getByLabelText(/What proves it/), 'W-0117')
    await user.click(within(dialog).getByRole('button', { name: 'Record it' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes().at(-1)?.body).toEqual({ method: 'three passes', evidence: '  W-0117', result: 'done', alone: false })
  })

  it('says where it went, when that is asked', async () => {
    service.answers['GET /api/refreshes/spring/old-computers/KB-1'] = {
      moves: [{ id: 'm', at: '2026-12-07T09:00:00Z', act: 'placed', where: 'Workshop, shelf 3', by: 'noor' }],
    }
    const user = userOfTest()
    card()
    await user.click(await screen.findByRole('button', { name: 'Its way so far' }))
    expect((await screen.findByText(/lies at/)).textContent).toContain('lies at Workshop, shelf 3')
  })

  it('asks for nothing more once it is gone', async () => {
    card({ state: 'gone', end: 'donated', endedTo: 'the school', wipe: wiped })
    await screen.findByText('gone')
    expect(screen.queryByRole('button', { name: 'Say where it is…' })).toBeNull()
    expect(screen.queryByRole('button', { name: 'Record its wipe…' })).toBeNull()
  })
})
