import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { FirstPage } from './FirstPage'
import type { Part } from './queries'
import { freshRefresh } from './RefreshForm'
import { RefreshPage } from './RefreshPage'

const parts = (over: Record<string, Partial<Part>> = {}): Part[] =>
  ['days', 'people', 'sites', 'technicians', 'depot', 'hands', 'accounts', 'notices', 'plan'].map((key) => ({
    key,
    state: 'there',
    words: `About ${key}`,
    ...over[key],
  }))
const open = async (all: Part[], unplannable: string | null = null, role = 'coordinator') => {
  service.answers['GET /api/refreshes/spring/set-up'] = { parts: all, unplannable }
  service.answers['GET /api/refreshes/spring/keeping'] = { days: null, asksForNames: true }
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [], refreshes: [] }
  service.answers['GET /api/refreshes/spring/world'] = {
    sites: [{ key: 'North', name: 'North' }],
    technicians: [{ key: 'noor-haddad' }],
    depots: [{ key: 'cloud' }],
  }
  showPage('/refresh', RefreshPage, ['/plan', '/roster'])
  await screen.findByRole('heading', { level: 1 })
}

describe('a refresh that is set up', () => {
  beforeEach(() => service.reset())
  afterEach(cleanup)

  it('says what is there, what is wanted next, and why no plan can be made yet', async () => {
    await open(parts({ technicians: { state: 'wants' }, plan: { state: 'open' } }), 'as soon as one technician is there')
    expect(screen.getByText('7 of 9 are there.')).toBeInTheDocument()
    expect(await screen.findByRole('button', { name: 'Make a first plan' })).toBeDisabled()
    expect(screen.getByText('as soon as one technician is there')).toBeInTheDocument()
  })

  it('takes a technician on the spot, under a key that nobody has', async () => {
    service.answers['PUT /api/refreshes/spring/technicians/noor-haddad-2'] = {}
    await open(parts({ technicians: { state: 'wants' } }))
    const form = await screen.findByRole('form', { name: 'A technician' })
    const user = userOfTest()
    await user.type(within(form).getByLabelText('Name'), 'Noor Haddad')
    await user.click(within(form).getByRole('button', { name: 'Add' }))
    await waitFor(() => expect(service.changes()[0]?.body).toMatchObject({ name: 'Noor Haddad', sites: ['North'] }))
  })

  it('tries a depot when it is set, stays open with what is wrong, and tries the same one again', async () => {
    let trouble: string | null = 'The password is wrong.'
    service.answers['PUT /api/refreshes/spring/depots/a-share-by-the-web-webdav'] = () => ({
      key: 'a-share-by-the-web-webdav',
      trouble,
      tried: 'It was tried.',
    })
    await open(parts({ depot: { state: 'wants' } }))
    const user = userOfTest()
    await user.click(await screen.findByRole('button', { name: 'Choose… Where files go' }))
    const dialog = await screen.findByRole('dialog')
    await user.click(within(dialog).getByLabelText(/A share by the web/))
    await user.type(within(dialog).getByLabelText(/Address/), 'https://cloud.kestrelbay.example/x')
    await user.click(within(dialog).getByRole('button', { name: 'Set it, and try it' }))
    expect(await within(dialog).findByRole('status')).toHaveTextContent('The password is wrong.')
    trouble = null
    await user.click(within(dialog).getByRole('button', { name: 'Try again' }))
    await user.click(await within(dialog).findByRole('button', { name: 'Done' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes()).toHaveLength(2)
  })

  it('keeps what it does not show when days are set', async () => {
    service.answers['PUT /api/refreshes/spring/keeping'] = {}
    await open(parts())
    const user = userOfTest()
    const field = await screen.findByLabelText('What is known of people: days')
    await user.type(field, '90')
    const save = within(field.closest('form') as HTMLElement).getByRole('button', { name: 'Keep it so' })
    await user.click(save)
    await waitFor(() => expect(service.changes()[0]?.body).toEqual({ days: 90, asksForNames: true }))
  })

  it('shows an auditor all of it and lets them change nothing', async () => {
    await open(parts(), null, 'auditor')
    expect(await screen.findByText('14 days')).toBeInTheDocument()
    expect(screen.queryAllByRole('button')).toHaveLength(0)
  })
})

describe('a new refresh', () => {
  beforeEach(() => service.reset())
  afterEach(cleanup)

  it('gets the next free key from its name, and keeps what was typed when it is refused', async () => {
    const keys: string[] = []
    service.answers['POST /api/refreshes'] = ({ body }: { body: unknown }) => {
      const { key } = body as { key: string }
      keys.push(key)
      return key === 'winter' ? new Refusal(409, 'There is another.', 'refresh.taken') : new Refusal(422, 'It has no such zone.')
    }
    showPage('/first', () => <FirstPage isFirst chosen={() => undefined} />, ['/refresh'])
    const user = userOfTest()
    await user.type(await screen.findByLabelText(/Name/), 'Winter')
    await user.click(screen.getByRole('button', { name: 'Make it' }))
    expect(await screen.findByRole('alert')).toHaveTextContent('It has no such zone.')
    expect(keys).toEqual(['winter', 'winter-2'])
    expect(screen.getByLabelText(/Name/)).toHaveValue('Winter')
  })

  it('begins on a Monday that comes', () => {
    for (let day = 1; day <= 14; day++) {
      const now = Date.UTC(2026, 11, day, 12)
      const starts = new Date(`${freshRefresh(now).starts}T12:00:00Z`)
      expect(starts.getUTCDay()).toBe(1)
      expect(starts.getTime()).toBeGreaterThan(now)
    }
  })
})
