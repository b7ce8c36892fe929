import { screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Schemas } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { BulkEdit } from '../swaps/BulkEdit'
import { HistoryPage } from './HistoryPage'
import { OutlookPage } from './OutlookPage'
import { SheetsPage } from './SheetsPage'

// The plot draws with the sizes of a real window; what it says in words is tested here, how it looks in a browser.
vi.mock('./OutlookPlot', () => ({ default: () => null }))

const base = '/api/refreshes/spring'
let user: ReturnType<typeof userOfTest>

function show(Page: () => React.ReactNode) {
  user = userOfTest()
  showPage('/page', Page, ['/plan', '/swaps/$swap'])
}

const figures: Schemas['PlanFigures'] = {
  placed: 3,
  leftOut: 0,
  cost: 12,
  costLeftOut: 0,
  costLate: 0,
  costNotPreferred: 0,
  costMoved: 0,
  costJourneys: 0,
  costTechnicianDays: 12,
  lastDay: '2026-12-08',
}
const world = {
  sites: [{ key: 'North Quay', name: 'North Quay', benches: 2, rooms: [], opens: 'daily 07:00-19:00' }],
  technicians: [{ key: 'noor', name: 'Noor Haddad', sites: [], shifts: [], skills: [], absences: [] }],
  ways: [],
  closures: [],
  deliveries: [{ key: 'd', name: 'Second batch', arrives: '2026-12-08 12:00', tags: ['KB-1'] }],
  waves: [{ key: 'office', name: 'Office', from: '2026-12-07', until: '2026-12-08', swaps: 0 }],
  depots: [],
  estimates: [],
}
const outlook = (asked: Schemas['OutlookWanted']): Schemas['OutlookSeen'] => ({
  asked,
  inTime: asked.noShow > 0.1 ? 0.62 : 0.97,
  sureDay: asked.noShow > 0.1 ? null : '2026-12-09',
  leftOut: 1,
  days: [
    { day: '2026-12-07', visits: 4, doneBy: 0.3, overtime: 0.71, repeated: 1.25, isBeyond: false },
    { day: '2026-12-08', visits: 0, doneBy: 0.97, overtime: null, repeated: null, isBeyond: false },
  ],
  sites: [{ site: 'North Quay', visits: 4, repeated: 1.25 }],
})

beforeEach(() => {
  service.reset()
  service.answers[`GET ${base}/world`] = world
  service.answers[`POST ${base}/plan/outlook`] = (asked: { body: Schemas['OutlookWanted'] }) => outlook(asked.body)
})

describe('will it hold', () => {
  it('says the chance, the day that is sure, and the days and sites at risk', async () => {
    show(OutlookPage)
    expect(await screen.findByText('97 %')).toBeVisible()
    expect(screen.getByText(/in 95 of 100 by Wed 9 Dec. Who is left out \(1\) is not counted/)).toBeVisible()
    const days = within(screen.getByRole('region', { name: 'Days at risk' }))
    expect(days.getByRole('row', { name: 'Mon 7 Dec 4 71 % 1.3' })).toBeVisible()
    expect(days.queryByText('Tue 8 Dec')).toBeNull()
    expect(screen.getByRole('row', { name: 'North Quay 4 1.3' })).toBeVisible()
  })

  it('is asked anew when a doubt is changed, and only then', async () => {
    show(OutlookPage)
    await screen.findByText('97 %')
    expect(service.changes()).toHaveLength(1)
    const noShow = screen.getByLabelText('No-show')
    await user.clear(noShow)
    await user.type(noShow, '0.2')
    expect(await screen.findByText('62 %')).toBeVisible()
    expect(screen.getByText(/even the days beyond it are not enough/)).toBeVisible()
    expect(service.changes().at(-1)?.body).toMatchObject({ noShow: 0.2, failedTrip: 0.03, runs: 2000 })
  })
})

describe('slack', () => {
  const step = (minutes: number, inTime: number, overtime: number, leftOut: number, moved: number) => ({
    minutes,
    inTime,
    overtime,
    leftOut,
    moved,
    repeated: 1.5,
    lastDay: '2026-12-08',
  })

  it('is worked out when somebody asks, with the doubts that stand above it', async () => {
    service.answers[`POST ${base}/plan/slack`] = { steps: [step(0, 0.71, 0.6, 1, 0), step(30, 0.95, 0.2, 3, 7)] }
    show(OutlookPage)
    const noShow = await screen.findByLabelText('No-show')
    await user.clear(noShow)
    await user.type(noShow, '0.2')
    expect(service.changes().filter((a) => a.path.endsWith('/slack'))).toEqual([])
    await user.click(screen.getByRole('button', { name: 'Work it out' }))
    const steps = within(await screen.findByRole('region', { name: 'Steps of slack' }))
    expect(steps.getByRole('row', { name: 'as it is 71 % 60 % 1.5 1 Tue 8 Dec' })).toBeVisible()
    expect(steps.getByRole('row', { name: '30 min more 95 % 20 % 1.5 3 7 Tue 8 Dec' })).toBeVisible()
    expect(service.changes().filter((a) => a.path.endsWith('/slack'))).toMatchObject([{ body: { doubts: { noShow: 0.2 }, seconds: 1 } }])
  })
})

describe('what if', () => {
  const seen = {
    before: figures,
    after: { ...figures, leftOut: 1 },
    moved: 2,
    leftOut: [{ swap: 's-1', person: 'Ida Moreau', because: 'Rule 3.' }],
    letIn: [],
    words: '1 more swap left out, 2 appointments would move.',
  }

  it('asks about one change after another, together, and starts over', async () => {
    service.answers[`POST ${base}/plan/what-if`] = seen
    show(OutlookPage)
    await user.click(await screen.findByRole('combobox', { name: 'Which' }))
    await user.click(await screen.findByRole('option', { name: 'Noor Haddad' }))
    expect(screen.getByRole('button', { name: 'Ask' })).toBeDisabled()
    await user.type(screen.getByLabelText('When'), '2026-12-08')
    await user.click(screen.getByRole('button', { name: 'Ask' }))
    expect(await screen.findByText('1 more swap left out, 2 appointments would move.')).toBeVisible()
    expect(screen.getByText(/Ida Moreau: Rule 3/)).toBeVisible()
    await user.click(screen.getByRole('button', { name: 'Ask' }))
    const asked = () => service.changes().filter((a) => a.path.endsWith('/what-if'))
    await waitFor(() => expect(asked()).toHaveLength(2))
    expect(asked()[1]?.body).toMatchObject({ changes: ['away "noor" 2026-12-08', 'away "noor" 2026-12-08'] })
    await user.click(screen.getByRole('button', { name: 'Start over' }))
    expect(screen.queryByText(/Asked together/)).toBeNull()
  })

  it('says what is wrong with a question in the words of the service', async () => {
    service.answers[`POST ${base}/plan/what-if`] = new Refusal(422, "'away noor soon' is no change to ask about.")
    show(OutlookPage)
    await user.click(await screen.findByRole('combobox', { name: 'Which' }))
    await user.click(await screen.findByRole('option', { name: 'Noor Haddad' }))
    await user.type(screen.getByLabelText('When'), 'soon')
    await user.click(screen.getByRole('button', { name: 'Ask' }))
    expect(await screen.findByText("'away noor soon' is no change to ask about.")).toBeVisible()
    expect(screen.getByLabelText('When')).toHaveValue('soon')
  })
})

describe('history', () => {
  it('compares any two plans, the older one first, however they were ticked', async () => {
    const listed = (number: number, state: string) => ({
      number,
      state,
      basedOn: number - 1,
      madeBy: 'Kit',
      madeAt: '2026-12-07T08:00:00Z',
      publishedBy: null,
      publishedAt: null,
      placed: 3,
      leftOut: 0,
      cost: 12,
    })
    service.answers[`GET ${base}/plans`] = [listed(3, 'draft'), listed(2, 'published'), listed(1, 'past')]
    service.answers[`GET ${base}/plans/compared`] = {
      from: 1,
      to: 3,
      before: figures,
      after: figures,
      changes: [{ swap: 's-1', person: 'Ida', isBench: false, before: null, after: null, words: 'Ida moves.' }],
    }
    show(HistoryPage)
    for (const number of ['3', '1']) await user.click(await screen.findByRole('checkbox', { name: number }))
    expect(await screen.findByRole('heading', { name: 'From plan 1 to plan 3' })).toBeVisible()
    expect(screen.getByText('Ida moves.')).toBeVisible()
  })
})

describe('sheets', () => {
  it('has one sheet for each technician of the day, and says when it is a draft', async () => {
    const visit = (swap: string, person: string, start: string, technician: string) => ({
      swap,
      person,
      site: 'North Quay',
      room: 'Hall',
      technician,
      technicianName: technician === 'noor' ? 'Noor Haddad' : 'Theo Brandt',
      start: `${start}:00Z`,
      handsOnUntil: `${start}:00Z`,
      finish: `${start}:00Z`,
      end: `${start}:00Z`,
      isBench: false,
      isPinned: false,
    })
    service.answers[`GET ${base}/plan`] = {
      number: 2,
      state: 'draft',
      appointments: [
        visit('s-1', 'Ida', '2026-12-07T09:00', 'noor'),
        visit('s-2', 'Sol', '2026-12-07T10:00', 'theo'),
        visit('s-3', 'Per', '2026-12-08T10:00', 'noor'),
      ],
    }
    show(() => <SheetsPage day="2026-12-07" />)
    expect(await screen.findByRole('heading', { name: 'Noor Haddad, Monday 7 December' })).toBeVisible()
    expect(screen.getByRole('heading', { name: 'Theo Brandt, Monday 7 December' })).toBeVisible()
    expect(screen.queryByText('Per')).toBeNull()
    expect(screen.getAllByText(/draft, not booked/)).toHaveLength(2)
  })
})

describe('many swaps at once', () => {
  it('are all found, piece by piece, and told only what was filled in', async () => {
    let piece = 0
    service.answers[`GET ${base}/swaps`] = () =>
      piece++ === 0 ? { items: [{ id: 's-1' }, { id: 's-2' }], next: 'more', total: 3 } : { items: [{ id: 's-3' }], next: null, total: 3 }
    service.answers[`POST ${base}/swaps/edits`] = { changed: 3, same: 0 }
    const close = vi.fn()
    show(() => <BulkEdit refresh="spring" search={{ site: 'North Quay' }} total={3} close={close} />)
    await user.selectOptions(await screen.findByLabelText('Wave'), await screen.findByRole('option', { name: /Office/ }))
    await user.type(screen.getByLabelText(/must know/), 'tablets')
    await user.selectOptions(screen.getByLabelText(/Pin to a technician/), 'noor')
    await user.click(screen.getByRole('button', { name: 'Change them' }))
    await waitFor(() => expect(close).toHaveBeenCalled())
    expect(service.changes()).toMatchObject([
      {
        body: {
          swaps: ['s-1', 's-2', 's-3'],
          wave: 'office',
          skills: ['tablets'],
          weight: null,
          free: null,
          preferred: null,
          unpin: false,
          pinnedTechnician: 'noor',
        },
      },
    ])
  })
})
