import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import type { ReactNode } from 'react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { ScanCard } from '../old-computers/ScanCard'
import { PersonSigns } from '../swap/PersonSigns'
import { RoundPage } from './RoundPage'

const now = '2026-12-07T09:00:00Z'
const sign = { sign: 'ahead', words: 'Next: swapped', since: null }

const turn = (over: Partial<Schemas['RoundTurnSeen']>): Schemas['RoundTurnSeen'] => ({
  swap: 'spring-1',
  name: 'Ida Moreau',
  site: 'North Quay',
  room: 'Ticket hall',
  part: 'first',
  start: now,
  end: '2026-12-07T09:15:00Z',
  promised: null,
  lateMinutes: 0,
  words: 'First part at Ticket hall',
  step: 'told',
  stepTitle: 'Person has been told',
  sign,
  ...over,
})

const show = async (page: ReactNode) => void showPage('/', () => page, ['/swaps/$swap', '/capacity'])

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/me': { name: 'noor', shown: 'Noor Haddad', role: 'technician', sites: ['North Quay'] },
    'GET /api/refreshes/spring/technicians': [
      { key: 'noor', name: 'Noor Haddad', sites: ['North Quay'], shifts: [], skills: [], absences: [] },
      { key: 'vera', name: 'Vera Lindqvist', sites: ['North Quay'], shifts: [], skills: [], absences: [] },
    ],
  })
})
afterEach(() => cleanup())

describe('a round', () => {
  const round = (over: object) => ({
    technician: 'noor',
    name: 'Noor Haddad',
    day: '2026-12-07',
    now,
    turns: [],
    alone: [],
    over: 0,
    ...over,
  })

  it('says one thing to do now, who waits beyond what was promised, and what goes on by itself', async () => {
    service.answers['GET /api/refreshes/spring/round'] = round({
      turns: [
        turn({}),
        turn({ swap: 'spring-2', name: 'Sol Okafor', promised: '2026-12-07T09:10:00Z', start: '2026-12-07T09:20:00Z', lateMinutes: 10 }),
      ],
      alone: [
        {
          swap: 'spring-3',
          name: 'Per Lunde',
          site: 'Workshop',
          room: null,
          words: 'Restore',
          since: now,
          until: '2026-12-07T09:40:00Z',
          moving: null,
        },
      ],
      over: 2,
    })
    await show(<RoundPage />)
    const first = await screen.findByRole('region', { name: 'Ida Moreau' })
    expect(within(first).getByText('Person has been told')).toBeTruthy()
    expect(within(first).getByRole('link', { name: 'Work its checklist' }).getAttribute('href')).toBe('/swaps/spring-1')
    expect(within(screen.getByRole('region', { name: 'Then' })).getByText(/promised 9:10: 10 min late/)).toBeTruthy()
    expect(within(screen.getByRole('region', { name: 'Goes on by itself' })).getByText('until 9:40')).toBeTruthy()
    expect(screen.getByText(/2 swaps to go, 2 over, 1 going on by itself/)).toBeTruthy()
  })

  it('is handed over only after a look at what becomes of each swap, and a changed wish is looked at anew', async () => {
    service.answers['GET /api/refreshes/spring/round'] = round({ turns: [turn({})] })
    const path = 'POST /api/refreshes/spring/technicians/noor/day-handover'
    service.answers['GET /api/refreshes/spring/told'] = { since: now, canSend: true, people: [] }
    service.answers[path] = ({ body }: { body: unknown }) => ({
      technician: 'noor',
      name: 'Noor Haddad',
      done: !(body as { dryRun: boolean }).dryRun,
      swaps: [
        { swap: 'spring-1', name: 'Ida Moreau', to: 'Vera Lindqvist', was: now, start: now, words: 'Stays at 09:00, with Vera Lindqvist.' },
      ],
    })
    const user = userOfTest()
    await show(<RoundPage />)
    await user.click(await screen.findByRole('button', { name: 'Hand over the day…' }))
    await user.click(await screen.findByRole('combobox', { name: /Who takes over/ }))
    await user.click(await screen.findByRole('option', { name: 'Vera Lindqvist' }))
    await user.type(screen.getByLabelText(/What must they know/), 'gone home ill')
    await user.click(screen.getByRole('button', { name: 'See what would become of each' }))
    expect(await screen.findByText('Stays at 09:00, with Vera Lindqvist.')).toBeTruthy()
    await user.type(screen.getByLabelText(/What must they know/), '!')
    expect(screen.queryByText('Stays at 09:00, with Vera Lindqvist.')).toBeNull()
    await user.click(screen.getByRole('button', { name: 'See what would become of each' }))
    await user.click(await screen.findByRole('button', { name: 'Hand it over' }))
    // What became of each stands there, and who hears of it.
    const done = await screen.findByRole('dialog', { name: "Noor Haddad's day is handed over" })
    expect(await within(done).findByText('Everybody knows their time.')).toBeTruthy()
    await user.click(within(done).getByRole('button', { name: 'Close' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes().map((a) => a.body)).toEqual([
      { to: ['vera'], note: 'gone home ill', dryRun: true },
      { to: ['vera'], note: 'gone home ill!', dryRun: true },
      { to: ['vera'], note: 'gone home ill!', dryRun: false },
    ])
  })
})

describe('scanning old computers', () => {
  it('goes on from tag to tag, and says of each what came of it', async () => {
    service.answers['POST /api/refreshes/spring/old-computers/KB-1/moves'] = { tag: 'KB-1', name: 'Ida Moreau', words: 'Shelf 3' }
    service.answers['POST /api/refreshes/spring/old-computers/KB-9/moves'] = new Refusal(404, 'KB-9 is no old computer of spring.')
    const user = userOfTest()
    await show(<ScanCard />)
    await user.type(await screen.findByLabelText('Place: room, shelf'), 'Shelf 3')
    // A code reader types the tag and Enter.
    await user.click(screen.getByLabelText('Tag'))
    await user.keyboard('KB-1{Enter}')
    await screen.findByText('Ida Moreau: Shelf 3')
    await user.keyboard('KB-9{Enter}')
    await screen.findByText('KB-9 is no old computer of spring.')
    expect((screen.getByLabelText('Place: room, shelf') as HTMLInputElement).value).toBe('Shelf 3')
    expect(document.activeElement).toBe(screen.getByLabelText('Tag'))
    const [first, second] = service.changes().map((a) => a.body as { id: string; act: string; where: string })
    expect([first?.act, first?.where]).toEqual(['placed', 'Shelf 3'])
    expect(first?.id).not.toBe(second?.id)
  })
})

describe('the person', () => {
  const seen = {
    swap: { id: 'spring-1', name: 'Ida Moreau' },
    total: {
      onNew: { files: 3, bytes: 10 },
      waived: { files: 1, bytes: 0 },
      waivedAtNew: { files: 0, bytes: 0 },
      leftOut: { files: 0, bytes: 0 },
    },
  } as unknown as SwapSeen
  const part = { part: 'person', missing: [], facts: 'f1', statement: 'I have looked.' } as unknown as Schemas['SignOffSeen']

  it('signs with name and strokes what was read, and a refusal loses neither', async () => {
    let answer: unknown = new Refusal(422, 'This is the swap of Ida Moreau. Whoever signs writes that name.')
    service.answers['POST /api/swaps/spring-1/sign-offs'] = () => answer
    const user = userOfTest()
    await show(<PersonSigns seen={seen} part={part} />)
    await user.click(await screen.findByRole('button', { name: 'Ida Moreau signs…' }))
    expect(await screen.findByText(/1 file given up, each with a reason/)).toBeTruthy()
    await user.type(screen.getByLabelText(/Your name/), 'Ida')
    const pad = screen.getByRole('img')
    pad.getBoundingClientRect = () => ({ left: 0, top: 0, width: 320, height: 120 }) as DOMRect
    fireEvent.pointerDown(pad, { clientX: 10, clientY: 20 })
    fireEvent.pointerMove(pad, { clientX: 30, clientY: 40 })
    fireEvent.pointerUp(pad)
    fireEvent.pointerMove(pad, { clientX: 99, clientY: 99 })
    await user.click(screen.getByRole('button', { name: 'Sign' }))
    expect(await screen.findByText(/Whoever signs writes that name/)).toBeTruthy()
    await user.type(screen.getByLabelText(/Your name/), ' Moreau')
    answer = { part: 'person', by: 'Ida Moreau' }
    await user.click(screen.getByRole('button', { name: 'Sign' }))
    await waitFor(() => expect(service.changes()).toHaveLength(2))
    const sent = service.changes()[1]?.body as { facts: string; name: string; drawn: string }
    expect([sent.facts, sent.name]).toEqual(['f1', 'Ida Moreau'])
    expect(sent.drawn).toMatch(/^M[\d.]+ [\d.]+ L[\d.]+ [\d.]+$/)
  })
})
