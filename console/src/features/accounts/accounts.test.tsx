import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { AccountsPage } from './AccountsPage'
import { OwnPage } from './OwnPage'
import type { Account, Session } from './queries'

const account = (name: string, over: Partial<Account> = {}): Account => ({
  name,
  shown: `Person ${name}`,
  role: 'technician',
  sites: ['North Quay'],
  refreshes: [],
  person: null,
  disabledAt: null,
  seenAt: '2026-12-01T08:00:00Z',
  sessions: 1,
  passkeys: 0,
  isOfOrganisation: false,
  ...over,
})
const session = (id: string, over: Partial<Session> = {}): Session => ({
  id,
  label: `yardline on ${id}`,
  isBrowser: false,
  madeAt: '2026-12-01T08:00:00Z',
  seenAt: '2026-12-01T08:00:00Z',
  ends: '2026-12-08T08:00:00Z',
  isThis: false,
  ...over,
})
const accounts = async () => {
  showPage('/accounts', AccountsPage)
  await screen.findByText('Person kit')
}
const row = (name: string) => screen.getByText(`Person ${name}`).closest('li') as HTMLElement

beforeEach(() => {
  service.reset()
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Person kit', role: 'coordinator', sites: [], refreshes: [] }
  service.answers['GET /api/refreshes'] = [{ key: 'spring', name: 'Spring' }]
  service.answers['GET /api/refreshes/spring/sites'] = [{ key: 'North Quay' }, { key: 'Workshop' }]
  service.answers['GET /api/service/ledger'] = {
    total: 3,
    next: null,
    items: ['account.signed-in', 'sign-in.refused', 'sign-in.refused'].map((kind, i) => ({
      number: i + 1,
      json: JSON.stringify({ at: '2026-12-01T08:00:00Z', kind }),
      words: kind === 'sign-in.refused' ? '3 sign-ins were refused within 5 minutes: 3 as noor' : 'Person kit signed in',
    })),
  }
  service.answers['GET /api/accounts'] = [
    account('kit', { role: 'coordinator', sites: [], sessions: 2 }),
    account('noor', { refreshes: ['spring'] }),
    account('gone', { disabledAt: '2026-12-01T08:00:00Z', sessions: 0, seenAt: null }),
  ]
})
afterEach(() => cleanup())

describe('accounts', () => {
  it('say who gets in, how far and from how many places, and nobody ends their own', async () => {
    const user = userOfTest()
    await accounts()
    expect(screen.getByText(/2 in use · 1 disabled · signed in at 3 places/)).toBeTruthy()
    expect(row('noor').textContent).toMatch(/technician North Quay · only spring.*signed in at 1 place, last used/)
    expect(row('gone').textContent).toMatch(/disabled since/)
    await user.click(within(row('kit')).getByRole('button', { name: /What to do/ }))
    for (const name of ['Disable…', 'Remove…'])
      expect((await screen.findByRole('menuitem', { name })).getAttribute('data-disabled')).toBe('true')
  })

  it('are disabled only after it is said what that does', async () => {
    service.answers['PUT /api/accounts/noor/use'] = {}
    const user = userOfTest()
    await accounts()
    await user.click(within(row('noor')).getByRole('button', { name: /What to do/ }))
    await user.click(await screen.findByRole('menuitem', { name: 'Disable…' }))
    const dialog = await screen.findByRole('dialog')
    expect(dialog.textContent).toContain('refused from the next request on')
    expect(service.changes()).toHaveLength(0)
    await user.click(within(dialog).getByRole('button', { name: 'Disable it' }))
    expect(service.changes().map((c) => c.body)).toEqual([{ disabled: true }])
  })

  it('are changed without their password, and what was typed stays where it is refused', async () => {
    service.answers['PUT /api/accounts/noor'] = new Refusal(422, 'That password is among the first that somebody tries.')
    const user = userOfTest()
    await accounts()
    await user.click(within(row('noor')).getByRole('button', { name: /What to do/ }))
    await user.click(await screen.findByRole('menuitem', { name: 'Change…' }))
    const dialog = await screen.findByRole('dialog')
    const name = within(dialog).getByLabelText(/Name for people/) as HTMLInputElement
    await user.clear(name)
    await user.type(name, 'Noor Haddad')
    await user.click(within(dialog).getByRole('button', { name: 'Keep it so' }))
    await within(dialog).findByText(/first that somebody tries/)
    expect(name.value).toBe('Noor Haddad')
    expect(service.changes()[0]?.body).toEqual({
      shown: 'Noor Haddad',
      role: 'technician',
      password: null,
      sites: ['North Quay'],
      refreshes: ['spring'],
      person: null,
    })
  })
})

describe("the service's own ledger", () => {
  it('shows the newest first, gathers what came again, and marks what was refused', async () => {
    await accounts()
    const rows = within(await screen.findByRole('region', { name: 'Lately' })).getAllByRole('listitem')
    expect(rows.map((r) => r.textContent)).toEqual([
      expect.stringMatching(/wants somebody.*3 as noor · 2 times/),
      expect.stringMatching(/^Person kit signed in/),
    ])
  })
})

describe("one's own account", () => {
  it('makes an address for a calendar, shows it once, and withdraws one', async () => {
    service.answers['GET /api/sessions'] = []
    service.answers['GET /api/me'] = { name: 'noor', shown: 'Noor', role: 'technician', sites: ['North Quay'], refreshes: [] }
    const feed = { id: 'f1', site: null, technician: 'noor', madeBy: 'noor', madeAt: '2026-12-01T08:00:00Z', readAt: null }
    service.answers['GET /api/refreshes/spring/feeds'] = [feed]
    service.answers['POST /api/refreshes/spring/feeds'] = { id: 'f2', address: 'http://y.example/api/feeds/yr_1' }
    service.answers['DELETE /api/refreshes/spring/feeds/f1'] = {}
    const user = userOfTest()
    showPage('/me', OwnPage)
    await user.click(await screen.findByRole('button', { name: 'An address for my appointments' }))
    expect(((await screen.findByLabelText(/shown this once/)) as HTMLInputElement).value).toContain('/api/feeds/yr_1')
    await user.click(screen.getByRole('button', { name: 'Withdraw: Appointments of noor' }))
    expect(service.changes().map((c) => [c.method, c.body])).toEqual([
      ['POST', { site: null, technician: 'noor' }],
      ['DELETE', null],
    ])
  })

  it('shows where it is signed in, ends one or all others, and takes another password', async () => {
    service.answers['GET /api/refreshes/spring/feeds'] = []
    service.answers['GET /api/sessions'] = [
      session('here', { isThis: true, isBrowser: true, label: 'Chromium or Chrome on Linux' }),
      session('desk'),
    ]
    service.answers['DELETE /api/sessions/desk'] = {}
    service.answers['DELETE /api/sessions'] = {}
    service.answers['PUT /api/me/password'] = new Refusal(403, 'The password that counts until now is another.')
    const user = userOfTest()
    showPage('/me', OwnPage)
    await user.click(await screen.findByRole('button', { name: 'Sign out yardline on desk' }))
    expect(screen.getByText(/Chromium or Chrome on Linux/).closest('li')?.textContent).toContain('this one')
    await user.click(screen.getByRole('button', { name: 'Sign out everywhere else' }))
    await user.type(screen.getByLabelText('The one of now'), 'before')
    await user.type(screen.getByLabelText('The new one'), 'four words that fit')
    await user.click(screen.getByRole('button', { name: 'Change it' }))
    await screen.findByText(/counts until now is another/)
    expect((screen.getByLabelText('The new one') as HTMLInputElement).value).toBe('four words that fit')
    expect(service.changes().map((c) => `${c.method} ${c.path}`)).toEqual([
      'DELETE /api/sessions/desk',
      'DELETE /api/sessions',
      'PUT /api/me/password',
    ])
  })
})
