import { cleanup, screen, waitFor } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { ToldPage } from './ToldPage'
import { WhoHears } from './WhoHears'

const last = (moment: string) => ({
  id: moment,
  swap: '',
  name: '',
  moment,
  language: 'en',
  to: 'x@kestrelbay.example',
  subject: 's',
  state: 'sent',
  madeAt: '2026-12-07T09:00:00Z',
  sentAt: '2026-12-07T09:00:00Z',
  openedAt: null,
  tries: 1,
  trouble: null,
})

const person = (swap: string, name: string, over = {}) => ({
  swap,
  name,
  site: 'North Quay',
  wave: null,
  mail: 'x@kestrelbay.example',
  mailOff: false,
  sent: 1,
  last: last('booked'),
  openedAt: null,
  seenAt: null,
  isReady: false,
  acceptedAt: null,
  trouble: null,
  ...over,
})

const people = [
  person('spring-1', 'Ida Moreau', { openedAt: '2026-12-07T10:00:00Z', seenAt: '2026-12-07T10:00:00Z', isReady: true }),
  person('spring-2', 'Sol Okafor'),
  person('spring-3', 'Ana Petrov', { last: last('day-before') }),
  person('spring-4', 'Per Lunde', { mail: null, last: null, sent: 0 }),
]

const open = async () => {
  showPage('/told', ToldPage, ['/swaps/$swap'])
  await screen.findByRole('heading', { name: 'Told' })
}

beforeEach(() => {
  service.reset()
  Object.assign(service.answers, {
    'GET /api/me': { name: 'kit', shown: 'Kit', role: 'coordinator', sites: [] },
    'GET /api/refreshes/spring/told': { since: '2026-12-01T09:00:00Z', canSend: true, people },
  })
})
afterEach(() => cleanup())

describe('who was told what', () => {
  it('shows who has not looked, and tells each of them once more what they heard last', async () => {
    service.answers['POST /api/refreshes/spring/notices/again'] = (asked: { body: unknown }) =>
      (asked.body as { moment: string }).moment === 'booked' ? { made: 1, skipped: [] } : new Refusal(409, 'The mail server is away.')
    const user = userOfTest()
    await open()
    expect(screen.getByText(/1 of 4 have looked/)).toBeTruthy()
    await user.selectOptions(screen.getByLabelText('Whom to show'), 'Who has not looked')
    expect(screen.queryByText('Ida Moreau')).toBeNull()
    expect(screen.getByText('no mail address')).toBeTruthy()
    await user.click(screen.getByLabelText('Choose all that are shown'))
    // Whoever heard nothing yet hears nothing again.
    await user.click(screen.getByRole('button', { name: 'Send again to 2' }))
    await screen.findByText('The mail server is away.')
    expect(service.changes().map((a) => a.body)).toEqual([
      { moment: 'booked', swaps: ['spring-2'] },
      { moment: 'day-before', swaps: ['spring-3'] },
    ])
    // What did not go stays chosen, and only that.
    expect(screen.getByRole('button', { name: 'Send again to 1' })).toBeTruthy()
  })

  it('sends a link to the address on record, or makes one to hand over and shows it', async () => {
    service.answers['POST /api/swaps/spring-4/person-links'] = { address: 'http://y.example/my#abc', expires: '2027-02-01T00:00:00Z' }
    const user = userOfTest()
    await open()
    await user.click(screen.getByRole('button', { name: 'Make a link for Per Lunde' }))
    expect(((await screen.findByRole('button', { name: /Send it/ })) as HTMLButtonElement).disabled).toBe(true)
    await user.click(screen.getByRole('button', { name: 'Make one to hand over' }))
    expect(((await screen.findByLabelText('Personal link')) as HTMLInputElement).value).toBe('http://y.example/my#abc')
    expect(service.changes().map((a) => a.body)).toEqual([{ way: 'paper' }])
  })

  it('after times changed, says who hears of it when, tells them at once if asked, and names whom to call', async () => {
    const next = (moment: string, due: string) => ({ moment, due, why: null })
    service.answers['GET /api/refreshes/spring/told'] = {
      since: '2026-12-01T09:00:00Z',
      canSend: true,
      people: [
        person('spring-1', 'Ida Moreau', { next: next('booked', '2026-12-07T08:00:00Z') }),
        person('spring-2', 'Sol Okafor', { next: next('moved', '2026-12-07T10:30:00Z') }),
        person('spring-3', 'Ana Petrov', { next: next('day-before', '2026-12-08T14:00:00Z') }),
        person('spring-4', 'Per Lunde', { mail: null, room: 'Desk 5', next: { moment: null, due: null, why: 'no mail address is known' } }),
      ],
    }
    service.answers['POST /api/refreshes/spring/notices/again'] = { made: 1, skipped: [] }
    showPage('/plan', () => <WhoHears refresh="spring" />, ['/swaps/$swap', '/told'])
    const user = userOfTest()
    expect(await screen.findByText(/2 people are told by mail between 7 Dec(,| at)? 8:00 and 7 Dec(,| at)? 10:30/)).toBeTruthy()
    const toCall = screen.getByRole('list', { name: 'Who is to be called' })
    expect(toCall.textContent).toContain('Per Lunde, North Quay, Desk 5')
    expect(toCall.textContent).toContain('no mail address is known')
    await user.click(screen.getByRole('button', { name: 'Tell them now' }))
    await waitFor(() =>
      expect(service.changes().map((a) => a.body)).toEqual([
        { moment: 'booked', swaps: ['spring-1'] },
        { moment: 'moved', swaps: ['spring-2'] },
      ]),
    )
  })
})
