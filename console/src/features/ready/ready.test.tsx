import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import type { Lack, Ready, VisitReady } from './queries'
import { ReadyPage } from './ReadyPage'

const lack = (kind: string, over: Partial<Lack> = {}): Lack => ({
  kind,
  isFinal: false,
  isMinor: false,
  count: null,
  words: `It lacks ${kind}.`,
  cures: [],
  ...over,
})
const visit = (n: number, state: string, lacks: Lack[] = []): VisitReady => ({
  swap: `spring-000${n}`,
  name: `Person ${n}`,
  site: 'North',
  room: null,
  start: `2026-12-08T0${n}:30:00Z`,
  technician: 'noor',
  technicianName: 'Noor',
  state,
  lacks,
})
const page = (over: Partial<Ready>): Ready => ({
  day: '2026-12-08',
  wave: null,
  site: null,
  zone: 'UTC',
  now: '2026-12-07T16:00:00Z',
  days: [{ day: '2026-12-08', visits: 4 }],
  toldUntil: null,
  visits: [],
  total: over.visits?.length ?? 0,
  ...over,
})
const open = async (ready: Ready, role = 'coordinator') => {
  service.answers['GET /api/refreshes/spring/ready'] = ready
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [], refreshes: [] }
  const router = showPage('/ready', () => <ReadyPage />, ['/swaps/$swap', '/plan', '/capacity'])
  await screen.findByRole('heading', { level: 1 })
  return router
}

describe('what is ready for a day', () => {
  beforeEach(() => {
    service.reset()
    service.answers['GET /api/refreshes/spring/world'] = { sites: [], waves: [], technicians: [] }
  })
  afterEach(cleanup)

  it('stands in order of what can be done about it, with one line for what stands in nobody’s way', async () => {
    await open(
      page({
        visits: [
          visit(1, 'cannot', [lack('not-delivered', { isFinal: true })]),
          visit(2, 'can-still', [lack('files-open'), lack('no-answer', { isMinor: true, count: 2 })]),
          visit(3, 'nearly', [lack('no-answer', { isMinor: true, count: 1 }), lack('steps-open', { isMinor: true, count: 7 })]),
          visit(4, 'ready'),
        ],
      }),
    )
    expect(screen.getByText('1 is ready, 1 but for answers and steps, 1 can still be, 1 cannot')).toBeInTheDocument()
    expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('Ready for tomorrow?')
    expect(screen.getAllByRole('region').map((r) => r.getAttribute('aria-label'))).toEqual([
      'Cannot as it is',
      'Can still be, soonest first',
      'Ready but for answers and steps',
      'Ready',
    ])
    expect(screen.getByText('Open, too: 2 answers.')).toBeInTheDocument()
    expect(screen.getByText('1 answer, 7 steps')).toBeInTheDocument()
  })

  it('is helped by one press: who was told is ticked on top of what a colleague did meanwhile', async () => {
    await open(
      page({
        visits: [
          visit(1, 'can-still', [
            lack('not-told', {
              cures: [{ action: 'told', words: 'I told them', command: 'yardline step set spring-0001 told', of: 'told' }],
            }),
          ]),
        ],
      }),
    )
    let version = 3
    service.answers['GET /api/swaps/spring-0001'] = () => ({ checklist: { version, steps: [] } })
    service.answers['PUT /api/swaps/spring-0001/checklist/steps/told'] = ({ version: seen }: { version: string | null }) =>
      seen === '"3"' && version++ === 3 ? new Refusal(412, 'Noor changed it.') : { version, steps: [] }
    const press = screen.getByRole('button', { name: 'I told them: Person 1' })
    expect(press).toHaveAttribute('title', 'yardline step set spring-0001 told')
    await userOfTest().click(press)
    await waitFor(() => expect(service.changes().map((c) => c.version)).toEqual(['"3"', '"4"']))
  })

  it('gives a spare only after a look at what follows', async () => {
    await open(
      page({
        visits: [
          visit(1, 'cannot', [
            lack('not-delivered', {
              isFinal: true,
              cures: [{ action: 'give', words: 'Give KB-98', command: 'yardline detour', of: 'KB-98' }],
            }),
          ]),
        ],
      }),
    )
    service.answers['POST /api/swaps/spring-0001/detours'] = ({ body }: { body: unknown }) => ({
      swap: 'spring-0001',
      name: 'Person 1',
      kind: 'wrongComputer',
      done: !(body as { dryRun: boolean }).dryRun,
      words: 'KB-98 takes the place of KB-2.',
      lines: ['Nothing was prepared on KB-2.'],
    })
    const user = userOfTest()
    await user.click(screen.getByRole('button', { name: 'Give KB-98: Person 1' }))
    const dialog = await screen.findByRole('dialog')
    await user.click(within(dialog).getByRole('button', { name: 'See what follows' }))
    expect(await within(dialog).findByText('Nothing was prepared on KB-2.')).toBeInTheDocument()
    await user.click(within(dialog).getByRole('button', { name: 'Give it' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(service.changes().map((c) => (c.body as { dryRun: boolean }).dryRun)).toEqual([true, false])
  })

  it('offers a technician nothing that only a coordinator can do', async () => {
    const cures = [
      { action: 'another-time', words: 'Another time', command: 'yardline plan make', of: null },
      { action: 'decide', words: 'Open swap', command: 'yardline swap show spring-0001', of: null },
    ]
    await open(page({ visits: [visit(1, 'can-still', [lack('files-open', { cures })])] }), 'technician')
    expect(await screen.findByRole('button', { name: 'Open swap: Person 1' })).toBeInTheDocument()
    expect(screen.queryByRole('button', { name: 'Another time: Person 1' })).toBeNull()
  })

  it('says so where nothing is booked', async () => {
    await open(page({ days: [], visits: [] }))
    expect(screen.getByText(/Nothing is booked/)).toBeInTheDocument()
  })

  it('goes by mail in the morning to whom it is set, and an address that was refused is not lost', async () => {
    const user = userOfTest()
    const mail = { to: ['it@kestrelbay.example'], at: '07:00', mailed: null, trouble: 'The mail server did not take it.', canSend: true }
    service.answers['GET /api/refreshes/spring/ready/mail'] = mail
    await open(page({ visits: [visit(4, 'ready')] }))
    await user.click(await screen.findByRole('button', { name: 'Mail in the morning' }))
    const dialog = within(await screen.findByRole('dialog'))
    expect(await dialog.findByText('The last one did not go: The mail server did not take it.')).toBeInTheDocument()
    expect(dialog.getByRole('button', { name: 'Keep' })).toBeDisabled()
    service.answers['PUT /api/refreshes/spring/ready/mail'] = new Refusal(400, '‘nobody’ is no mail address.')
    await user.type(dialog.getByLabelText('To'), '\nnobody')
    await user.click(dialog.getByRole('button', { name: 'Keep' }))
    expect(await dialog.findByText(/is no mail address/)).toBeInTheDocument()
    expect(dialog.getByLabelText('To')).toHaveValue('it@kestrelbay.example\nnobody')
    service.answers['PUT /api/refreshes/spring/ready/mail'] = { ...mail, to: [] }
    await user.clear(dialog.getByLabelText('To'))
    await user.click(dialog.getByRole('button', { name: 'Send none any more' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).not.toBeInTheDocument())
    expect(service.changes().at(-1)?.body).toEqual({ to: [], at: '07:00' })
  })
})
