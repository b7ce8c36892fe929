import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Day, Need, SwapListed } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { TodayPage } from './TodayPage'

const need = (swap: string, over: Partial<Need> = {}): Need => ({
  swap,
  name: `Person of ${swap}`,
  sign: 'wants',
  words: 'One snag is open.',
  since: '2026-12-07T08:00:00Z',
  action: 'snags',
  actionWords: 'Settle it',
  ...over,
})
const moving = (over: Partial<NonNullable<SwapListed['moving']>>) =>
  ({
    id: 'spring-0001',
    name: 'Ida Moreau',
    line: [],
    next: 0,
    sign: { sign: 'moving', words: 'First trip', since: null },
    moving: {
      kind: 'first-trip',
      bytes: 250_000_000,
      totalBytes: 1_000_000_000,
      files: 20,
      totalFiles: 80,
      bytesPerSecond: 10_000_000,
      waits: null,
      pausedAt: null,
      ...over,
    },
  }) as unknown as SwapListed
const day = (over: Partial<Day> = {}) => {
  service.answers['GET /api/refreshes/spring/today'] = {
    day: '2026-12-07',
    zone: 'UTC',
    now: '2026-12-07T10:30:00Z',
    swaps: 3,
    sites: 1,
    done: 1,
    underWay: 1,
    stopped: 1,
    endsAt: '2026-12-07T16:45:00Z',
    visits: [],
    moving: [],
    needs: [],
    technicians: [],
    ...over,
  }
}
const open = async () => {
  const router = showPage('/', () => <TodayPage />, ['/swaps/$swap', '/capacity', '/swaps', '/plan'])
  await screen.findByRole('heading', { level: 1 })
  return router
}

beforeEach(() => {
  service.reset()
  day()
})
afterEach(() => cleanup())

describe('today', () => {
  it('says at a glance how the day stands and when it ends', async () => {
    await open()
    expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('Monday 7 December')
    expect(screen.getByText(/3 swaps at 1 site · 1 done, 1 under way, 1 stopped/).textContent).toContain(
      'the day ends at 16:45 as things stand',
    )
  })

  it('shows another day, says when that ends, and leads back', async () => {
    day({ day: '2026-12-09' })
    await open()
    expect(screen.getByText(/it ends at/)).toBeInTheDocument()
    expect(screen.getByRole('link', { name: 'The day after' })).toHaveAttribute('href', '/?day=2026-12-10')
    expect(screen.getByRole('link', { name: 'The day before' })).toHaveAttribute('href', '/?day=2026-12-08')
    expect(screen.getByRole('link', { name: 'today' })).toHaveAttribute('href', '/')
  })

  it('says that nothing waits, and where to look when there are no visits', async () => {
    await open()
    expect(screen.getByText(/Nothing waits for anybody/)).toBeTruthy()
    expect(screen.getByText(/No visits today/)).toBeTruthy()
  })

  it('names whoever needs somebody with how long they have waited, and leads there', async () => {
    day({ needs: [need('spring-0002', { sign: 'stopped', actionWords: 'Look at the trip' }), need('spring-0003')] })
    const router = await open()
    const needs = screen.getByRole('region', { name: 'Needs you now' })
    expect(
      within(needs)
        .getAllByRole('listitem')
        .map((i) => i.querySelector('.age')?.textContent),
    ).toEqual(['2 h 30', '2 h 30'])
    await userOfTest().click(within(needs).getByRole('button', { name: 'Look at the trip: Person of spring-0002' }))
    expect(router.state.location.pathname).toBe('/swaps/spring-0002')
  })

  it('shows three of one cause as one line that opens, and two as two', async () => {
    day({
      needs: [1, 2, 3].map((n) => need(`spring-000${n}`)).concat([4, 5].map((n) => need(`spring-000${n}`, { words: 'Nobody was told.' }))),
    })
    await open()
    const needs = within(screen.getByRole('region', { name: 'Needs you now' }))
    expect(needs.getAllByRole('listitem')).toHaveLength(3)
    await userOfTest().click(needs.getByRole('button', { name: 'Show each' }))
    expect(needs.getAllByRole('listitem')).toHaveLength(6)
    expect(needs.getByText('3 of one cause')).toBeTruthy()
  })

  it('leads to the capacity where what needs somebody is no swap', async () => {
    day({ needs: [need('', { name: 'Cloud share', actionWords: 'See the room' })] })
    const router = await open()
    await userOfTest().click(screen.getByRole('button', { name: 'See the room: Cloud share' }))
    expect(router.state.location.pathname).toBe('/capacity')
  })

  it('shows what is on its way, how fast, and how long it takes', async () => {
    day({ moving: [moving({})] })
    await open()
    const row = within(screen.getByRole('region', { name: 'On the move' })).getByRole('listitem')
    expect(row.textContent).toContain('250 MB of 1 GB')
    expect(row.textContent).toContain('10 MB/s')
    expect(row.querySelector('.left')?.textContent).toBe('75 s')
  })

  it.each([
    [{ pausedAt: '2026-12-07T10:00:00Z' }, 'rests'],
    [{ waits: 'battery' }, 'on battery'],
  ] as const)('says why something does not move: %o', async (over, words) => {
    day({ moving: [moving({ ...over, bytesPerSecond: 0 })] })
    await open()
    expect(within(screen.getByRole('region', { name: 'On the move' })).getByRole('listitem').textContent).toContain(words)
  })
})
