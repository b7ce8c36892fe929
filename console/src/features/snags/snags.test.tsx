import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { SnagsPage } from './SnagsPage'

const snag = (id: string, path: string, ways: string[], over: Partial<Schemas['SnagListed']> = {}): Schemas['SnagListed'] => ({
  snag: {
    id,
    swap: `spring-${id}`,
    path,
    kind: ways.length > 1 ? 'unreadable' : 'pipe',
    side: 'old',
    bytes: 0,
    reason: 'It cannot be carried.',
    countsAsFile: true,
    end: 'open',
    endedBy: null,
    endReason: null,
    at: '2026-12-07T09:00:00Z',
    endedAt: null,
  },
  name: `Person ${id}`,
  site: 'North Quay',
  room: null,
  ways,
  counsel: 'Waive it.',
  isBusy: false,
  ...over,
})

const open = async () => {
  showPage('/snags', () => <SnagsPage search={{}} />, ['/swaps/$swap'])
  await screen.findByText('3 open: retry or waive each')
}

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/refreshes/spring/snags': {
      items: [
        snag('1', 'a/pipe', ['waive']),
        snag('2', 'a/locked', ['top-up-trip', 'waive']),
        snag('3', 'a/busy', ['top-up-trip', 'waive'], { isBusy: true }),
      ],
      next: null,
      total: 3,
    },
    'GET /api/refreshes/spring/sites': [],
    'GET /api/me': { name: 'kit', shown: 'Kit', role: 'coordinator', sites: [] },
  })
})
afterEach(() => cleanup())

describe('snags of all swaps', () => {
  it('retries only where that can help and nothing is under way', async () => {
    service.answers['POST /api/swaps/spring-2/orders'] = {}
    const user = userOfTest()
    await open()
    const retry = screen.getByRole('button', { name: 'Retry' })
    expect(retry.hasAttribute('disabled')).toBe(true)
    await user.click(screen.getByRole('checkbox', { name: /a\/pipe/ }))
    expect(screen.getByRole('button', { name: 'Retry' }).hasAttribute('disabled')).toBe(true)
    await user.click(screen.getByRole('checkbox', { name: 'Choose all that are shown' }))
    await user.click(screen.getByRole('button', { name: 'Retry at 2 swaps' }))
    await screen.findByRole('button', { name: 'Retry' })
    expect(service.changes()).toMatchObject([{ path: '/api/swaps/spring-2/orders', body: { kind: 'top-up-trip' } }])
  })

  it('waives those that are chosen with one reason, which is kept where the service refuses it', async () => {
    service.answers['POST /api/refreshes/spring/waivers'] = new Refusal(422, 'A waiver needs a better reason.')
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('checkbox', { name: /a\/pipe/ }))
    await user.click(screen.getByRole('button', { name: /2 of one cause/ }))
    await user.click(screen.getByRole('checkbox', { name: /a\/locked/ }))
    await user.click(screen.getByRole('button', { name: 'Waive 2…' }))
    const dialog = await screen.findByRole('dialog')
    expect(within(dialog).getByText('a/locked')).toBeTruthy()
    await user.type(within(dialog).getByRole('textbox'), 'no content')
    await user.click(within(dialog).getByRole('button', { name: 'Waive' }))
    await within(dialog).findByText('A waiver needs a better reason.')
    expect((within(dialog).getByRole('textbox') as HTMLTextAreaElement).value).toBe('no content')
    service.answers['POST /api/refreshes/spring/waivers'] = { waived: 2, skipped: [] }
    await user.click(within(dialog).getByRole('button', { name: 'Waive' }))
    await screen.findByRole('button', { name: 'Waive…' })
    expect(service.changes().at(-1)?.body).toEqual({ snags: ['1', '2'], reason: 'no content' })
  })

  it('shows what has one cause as one line, chosen as one', async () => {
    const user = userOfTest()
    await open()
    const line = within(screen.getByRole('row', { name: /2 of one cause/ }))
    expect(line.getByText('Person 2, Person 3')).toBeTruthy()
    expect(screen.queryByText('a/locked')).toBeNull()
    await user.click(line.getByRole('checkbox', { name: 'Choose all 2 of this cause' }))
    expect(screen.getByRole('button', { name: 'Waive 2…' })).toBeEnabled()
    await user.click(line.getByRole('button', { name: /2 of one cause/ }))
    await user.click(screen.getByRole('checkbox', { name: /a\/locked/ }))
    expect(screen.getByRole('button', { name: 'Waive 1…' })).toBeEnabled()
    expect(line.getByRole('checkbox')).toHaveProperty('indeterminate', true)
  })
})
