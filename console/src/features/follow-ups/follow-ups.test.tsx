import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { FollowUpsCard, FollowUpsPage } from './FollowUps'

const followUp = (id: string, over: Partial<Schemas['FollowUpSeen']> = {}): Schemas['FollowUpSeen'] => ({
  id,
  swap: 'spring-0001',
  name: 'Ida Moreau',
  site: 'North Quay',
  words: `Cable ${id}`,
  owner: 'noor',
  ownerName: 'Noor Haddad',
  due: '2999-01-01T09:00:00Z',
  holds: 'nothing',
  cause: 'desk',
  madeBy: 'kit',
  madeAt: '2026-12-07T09:00:00Z',
  doneBy: null,
  doneAt: null,
  outcome: null,
  ...over,
})

const me = (role: string, sites: string[] = []) => {
  service.answers['GET /api/me'] = { name: 'noor', shown: 'Noor Haddad', role, sites }
}
const list = (...all: Schemas['FollowUpSeen'][]) => {
  service.answers['GET /api/refreshes/spring/follow-ups'] = all
}
const page = async () => {
  showPage('/follow-ups', FollowUpsPage, ['/swaps/$swap'])
  await screen.findByRole('heading', { name: 'Follow-ups' })
}
const row = async (words: string) => (await screen.findByText(new RegExp(words))).closest('li') as HTMLElement

beforeEach(() => {
  service.reset()
  me('coordinator')
})
afterEach(() => cleanup())

describe('follow-ups', () => {
  it('count what is open and what is overdue, and not what has ended', async () => {
    list(
      followUp('1', { due: '2020-01-01T09:00:00Z' }),
      followUp('2'),
      followUp('3', { due: '2020-01-01T09:00:00Z', doneBy: 'Noor', doneAt: '2020-01-02T09:00:00Z', outcome: 'new one' }),
    )
    await page()
    expect((await screen.findByText(/2 open/)).textContent).toBe('2 open, 1 overdue')
    expect((await row('Cable 1')).textContent).toContain('was due')
    expect((await row('Cable 3')).textContent).toContain('new one')
  })

  it('say what they hold up, and who comes back when', async () => {
    list(
      followUp('1', { holds: 'wipe' }),
      followUp('2', { visit: { minutes: 25, start: '2026-12-09T10:00:00Z', end: '2026-12-09T10:25:00Z', technician: 'Theo Brandt' } }),
      followUp('3', { visit: { minutes: 25, start: null, end: null, technician: null } }),
    )
    await page()
    expect((await row('Cable 1')).textContent).toContain('holds the wipe')
    expect((await row('Cable 2')).textContent).toMatch(/Theo Brandt comes back .*10:00, 25 min/)
    expect((await row('Cable 3')).textContent).toContain('nobody has room yet')
  })

  it('are ended with what came of it, which is kept where the service refuses it', async () => {
    list(followUp('1'))
    service.answers['POST /api/follow-ups/1/end'] = new Refusal(409, 'Vera has ended it already.')
    const user = userOfTest()
    await page()
    await user.click(await screen.findByRole('button', { name: 'End: Cable 1' }))
    const dialog = await screen.findByRole('dialog')
    expect(within(dialog).getByRole('button', { name: 'End it' }).hasAttribute('disabled')).toBe(true)
    await user.type(within(dialog).getByLabelText(/What came of it/), 'new cable')
    await user.click(within(dialog).getByRole('button', { name: 'End it' }))
    await within(dialog).findByText('Vera has ended it already.')
    expect((within(dialog).getByLabelText(/What came of it/) as HTMLTextAreaElement).value).toBe('new cable')
    expect(service.changes().at(-1)?.body).toEqual({ outcome: 'new cable' })
  })

  it('are changed in what was touched, and in nothing else', async () => {
    list(followUp('1', { due: '2999-01-01T09:00:30Z' }))
    me('coordinator')
    service.answers['GET /api/refreshes/spring/technicians'] = [{ key: 'theo', name: 'Theo Brandt' }]
    service.answers['PUT /api/follow-ups/1'] = new Refusal(409, 'Vera has ended it already.')
    const user = userOfTest()
    await page()
    await user.click(await screen.findByRole('button', { name: 'Change: Cable 1' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/What is to be done/), ', the long one')
    await user.click(within(dialog).getByRole('button', { name: 'Keep it so' }))
    await within(dialog).findByText('Vera has ended it already.')
    expect(service.changes().at(-1)?.body).toEqual({ words: 'Cable 1, the long one', owner: 'noor', due: null, holds: 'nothing' })
  })

  it('are ended by who works at their site, and by nobody else', async () => {
    list(followUp('1'), followUp('2', { site: 'Lantern Point' }))
    me('technician', ['North Quay'])
    await page()
    await screen.findByRole('button', { name: 'End: Cable 1' })
    expect(screen.queryByRole('button', { name: 'End: Cable 2' })).toBeNull()
  })

  it('say where new ones come from when there is none', async () => {
    list()
    await page()
    await screen.findByText(/What a desk cannot settle is opened as a follow-up/)
  })
})

describe('the follow-ups of one swap', () => {
  const card = (works: boolean) =>
    showPage('/card', () => (
      <FollowUpsCard seen={{ swap: { id: 'spring-0001', name: 'Ida Moreau' }, followUps: [] } as unknown as SwapSeen} works={works} />
    ))

  it('are opened with an owner, a time and what they hold up', async () => {
    service.answers['GET /api/refreshes/spring/technicians'] = [
      { key: 'noor', name: 'Noor Haddad' },
      { key: 'theo', name: 'Theo Brandt' },
    ]
    service.answers['POST /api/swaps/spring-0001/follow-ups'] = followUp('9')
    const user = userOfTest()
    card(true)
    await user.click(await screen.findByRole('button', { name: 'Open a follow-up…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/What is to be done/), 'Second screen')
    await user.click(within(dialog).getByRole('combobox', { name: 'Who does it?' }))
    await user.click(await screen.findByRole('option', { name: 'Theo Brandt', hidden: true }))
    await user.type(within(dialog).getByLabelText(/Must somebody come back/), '25')
    await user.click(within(dialog).getByRole('button', { name: 'Open it' }))
    await screen.findByRole('button', { name: 'Open a follow-up…' })
    expect(service.changes().at(-1)?.body).toEqual({ words: 'Second screen', owner: 'theo', due: null, holds: 'nothing', visitMinutes: 25 })
  })

  it('are opened by nobody who only looks', async () => {
    card(false)
    await screen.findByText(/What cannot be settled at the desk goes here/)
    expect(screen.queryByRole('button', { name: 'Open a follow-up…' })).toBeNull()
  })
})
