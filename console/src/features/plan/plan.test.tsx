import type { QueryClient } from '@tanstack/react-query'
import { useSearch } from '@tanstack/react-router'
import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { queriesOfTest, showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { stack } from './PlanBoard'
import { PlanPage } from './PlanPage'
import type { Appointment, Plan } from './queries'
import { takenPerSlot } from './Strips'

const at = (time: string, day = '2026-12-07') => `${day}T${time}:00.000Z`
const visit = (swap: string, person: string, start: string, end: string, over: Partial<Appointment> = {}): Appointment => ({
  swap,
  person,
  site: 'North Quay',
  room: null,
  technician: 'noor',
  technicianName: 'Noor Haddad',
  start: at(start),
  handsOnUntil: at(start),
  finish: at(end),
  end: at(end),
  isBench: false,
  isPinned: false,
  isAway: false,
  with: over.technicianName ?? 'Noor Haddad',
  ...over,
})
const technician = (key: string, name: string) => ({ key, name, sites: ['North Quay'], shifts: [], skills: [], absences: [] })
const plan = (over: Partial<Plan> = {}): Plan => ({
  number: 2,
  state: 'draft',
  version: 5,
  basedOn: 1,
  madeBy: 'Kit',
  madeAt: at('07:00'),
  publishedBy: null,
  publishedAt: null,
  appointments: [
    visit('s-1', 'Ida Moreau', '09:00', '10:00'),
    visit('s-2', 'Sol Okafor', '09:30', '10:30', { technician: 'theo', technicianName: 'Theo Brandt' }),
  ],
  leftOut: [{ swap: 's-3', person: 'Ana Petrov', because: 'Rule 4, benches: North Quay is full.' }],
  lost: [],
  figures: {
    placed: 2,
    leftOut: 1,
    cost: 1010,
    costLeftOut: 1000,
    costLate: 0,
    costNotPreferred: 0,
    costMoved: 5,
    costJourneys: 1,
    costTechnicianDays: 4,
    lastDay: '2026-12-07',
  },
  canUndo: true,
  load: {
    days: [
      { day: '2026-12-07', visits: 2, handsOnMinutes: 120, shiftMinutes: 480 },
      { day: '2026-12-08', visits: 0, handsOnMinutes: 0, shiftMinutes: 480 },
      { day: '2026-12-09', visits: 0, handsOnMinutes: 0, shiftMinutes: 0 },
    ],
    depots: [{ key: 'k', name: 'Cloud share', capacityBytes: 100, dailyBytes: null, lies: [40, 100, 0], brought: [40, 0, 0] }],
  },
  ...over,
})

const base = '/api/refreshes/spring'
let queries: QueryClient
let user: ReturnType<typeof userOfTest>

async function open(role = 'coordinator', seen: Plan = plan()) {
  Object.assign(service.answers, {
    [`GET ${base}/plan`]: seen,
    [`GET ${base}/world`]: {
      sites: [{ key: 'North Quay', name: 'North Quay', benches: 2, rooms: [], opens: 'daily 07:00-19:00' }],
      technicians: [technician('noor', 'Noor Haddad'), technician('theo', 'Theo Brandt')],
      ways: [],
      closures: [],
      deliveries: [],
      waves: [],
      depots: [],
      estimates: [],
    },
    'GET /api/me': { name: 'kit', shown: 'Kit', role, sites: [] },
    [`GET ${base}/plans/compared`]: {
      from: 1,
      to: 2,
      before: seen.figures,
      after: seen.figures,
      changes: [
        { swap: 's-1', person: 'Ida Moreau', isBench: false, before: null, after: seen.appointments[0], words: 'Ida Moreau comes in.' },
      ],
    },
  })
  queries = queriesOfTest()
  user = userOfTest()
  const router = showPage(
    '/plan?day=2026-12-07',
    () => <PlanPage {...useSearch({ strict: false })} />,
    ['/swaps/$swap', '/plan/sheets', '/capacity', '/plan/outlook', '/plan/history'],
    queries,
  )
  await screen.findByRole('heading', { name: /Plan 2|^Plan$/ })
  return router
}

beforeEach(() => service.reset())
afterEach(() => cleanup())

describe('a draft', () => {
  it('says how it stands, whom publishing affects, and who is left out', async () => {
    await open()
    expect(await screen.findByText(/publishing affects 1 visit/)).toBeVisible()
    expect(screen.getByText(/1 left out/)).toBeVisible()
    const tray = screen.getByRole('region', { name: /Left out/ })
    expect(within(tray).getByText(/^North Quay is full\./)).toBeVisible()
    expect(within(tray).queryByText(/Rule 4/)).not.toBeInTheDocument()
    expect(screen.getByRole('button', { name: /Ida Moreau, North Quay, 9:00 to 10:00 with Noor Haddad/ })).toBeVisible()
    expect(screen.getByRole('img', { name: 'North Quay: at most 2 of 2 benches taken' })).toBeVisible()
    expect(screen.getByRole('img', { name: 'Cloud share: 40 B lie there on Mon 7 Dec' })).toBeVisible()
  })

  it('is changed by keys: what a place costs is asked as it is held, and it is put there once', async () => {
    service.answers[`POST ${base}/plan/draft/trials`] = {
      isAllowed: true,
      breaks: [],
      costBefore: 1010,
      costAfter: 1012,
      at: visit('s-1', 'Ida Moreau', '09:15', '10:15'),
      version: 5,
    }
    service.answers[`POST ${base}/plan/draft/moves`] = {
      isAllowed: true,
      breaks: [],
      costBefore: 1010,
      costAfter: 1012,
      at: null,
      version: 6,
    }
    await open()
    screen.getByRole('button', { name: /Ida Moreau, North Quay/ }).focus()
    await user.keyboard('m{ArrowRight}{ArrowDown}')
    expect(await screen.findByText(/the plan gets worse by 2/)).toBeVisible()
    await user.keyboard('{Enter}')
    await waitFor(() => expect(service.asked.filter((a) => a.path.endsWith('/moves'))).toHaveLength(1))
    expect(service.asked.find((a) => a.path.endsWith('/moves'))).toMatchObject({
      version: '"5"',
      body: { swap: 's-1', technician: 'theo', start: at('09:15'), isBench: false },
    })
  })

  it('says what a place would break, and Escape leaves it as it was', async () => {
    service.answers[`POST ${base}/plan/draft/trials`] = {
      isAllowed: false,
      breaks: ['Noor Haddad has no shift.'],
      costBefore: 1,
      costAfter: 1,
      at: visit('s-1', 'Ida', '09:15', '10:15'),
      version: 5,
    }
    await open()
    screen.getByRole('button', { name: /Ida Moreau, North Quay/ }).focus()
    await user.keyboard('m{ArrowLeft}')
    expect(await screen.findByText(/Noor Haddad has no shift/)).toBeVisible()
    await user.keyboard('{Escape}')
    expect(screen.queryByText(/has no shift/)).toBeNull()
    expect(service.changes().filter((a) => !a.path.endsWith('/trials'))).toHaveLength(0)
  })

  it('tells when a colleague changed it meanwhile, and asks for it again', async () => {
    service.answers[`POST ${base}/plan/draft/undo`] = new Refusal(
      412,
      'The draft is at version 6 now, not 5: somebody changed it meanwhile.',
    )
    await open()
    const looks = () => service.asked.filter((a) => a.method === 'GET' && a.path === `${base}/plan`).length
    const before = looks()
    await user.click(screen.getByRole('button', { name: 'Undo' }))
    expect(await screen.findByText(/somebody changed it meanwhile/)).toBeVisible()
    await waitFor(() => expect(looks()).toBeGreaterThan(before))
  })

  it('is published only after it was said whom it affects', async () => {
    service.answers[`POST ${base}/plan/publication`] = plan({ state: 'published', publishedBy: 'Kit' })
    await open()
    await user.click(screen.getByRole('button', { name: 'Publish' }))
    const dialog = await screen.findByRole('dialog')
    expect(await within(dialog).findByText('Ida Moreau comes in.')).toBeVisible()
    expect(service.changes()).toHaveLength(0)
    await user.click(within(dialog).getByRole('button', { name: 'Publish' }))
    await waitFor(() => expect(service.changes()).toMatchObject([{ path: `${base}/plan/publication`, version: '"5"' }]))
  })

  it('shows what helps somebody who is left out', async () => {
    service.answers[`GET ${base}/plan/why/s-3`] = {
      swap: 's-3',
      person: 'Ana Petrov',
      appointment: null,
      ways: [{ rule: 4, words: 'One more bench at North Quay on Mon 7 Dec 10:00 lets it in.', technician: 'noor', start: at('10:00') }],
    }
    await open()
    await user.click(screen.getByRole('button', { name: 'What would let Ana Petrov in' }))
    expect(await screen.findByText(/One more bench at North Quay/)).toBeVisible()
  })

  it('goes from day to day by keys', async () => {
    const router = await open()
    screen.getByRole('option', { name: /Mon 7 Dec: 2 visits, 25 %/ }).focus()
    await user.keyboard('{ArrowRight}')
    await waitFor(() => expect(router.state.location.search).toMatchObject({ day: '2026-12-08' }))
    expect(await screen.findByText(/no visits/)).toBeVisible()
    expect(screen.getByRole('option', { name: /Wed 9 Dec: nobody works/ })).toBeVisible()
  })
})

describe('who may not lead', () => {
  it('sees the plan and can change nothing', async () => {
    await open('auditor')
    for (const name of ['Publish', 'Undo', 'Plan again', 'Place Ana Petrov']) expect(screen.queryByRole('button', { name })).toBeNull()
    screen.getByRole('button', { name: /Ida Moreau, North Quay/ }).focus()
    await user.keyboard('m')
    expect(screen.queryByText(/fits|costs/)).toBeNull()
  })
})

describe('no plan yet', () => {
  it('offers the first thing to do', async () => {
    service.answers[`POST ${base}/plan`] = plan()
    await open('coordinator', plan({ number: 0, state: 'none', appointments: [], leftOut: [] }))
    await user.click(screen.getByRole('button', { name: 'Make a draft' }))
    await waitFor(() => expect(service.changes()).toMatchObject([{ path: `${base}/plan`, body: { seed: 1, afresh: false } }]))
  })
})

describe('drawing', () => {
  it('puts visits that are under way at once below each other, and others side by side', () => {
    const lanes = stack([
      visit('b', 'B', '09:30', '10:30'),
      visit('a', 'A', '09:00', '10:00'),
      visit('c', 'C', '10:00', '11:00'),
      visit('d', 'D', '10:30', '11:00'),
    ])
    expect(lanes.map((l) => l.map((v) => v.swap))).toEqual([
      ['a', 'c'],
      ['b', 'd'],
    ])
  })

  it('counts benches quarter by quarter, the end not included', () => {
    const taken = takenPerSlot([visit('a', 'A', '09:00', '09:30'), visit('b', 'B', '09:15', '10:00')], Date.parse(at('09:00')), 5)
    expect(taken).toEqual([1, 2, 1, 1, 0])
  })
})
