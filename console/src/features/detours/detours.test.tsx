import { cleanup, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { DetourDialog } from './DetourDialog'
import type { Detour } from './queries'

let closed = false
const open = async (may: Detour[], leads = true) => {
  const seen = { swap: { id: 'spring-0001', name: 'Ida Moreau' }, mayDetour: may } as unknown as SwapSeen
  showPage('/swap', () => <DetourDialog seen={seen} leads={leads} close={() => (closed = true)} />)
  await screen.findByRole('dialog')
  return userOfTest()
}
const button = (name: string | RegExp) => screen.getByRole('button', { name })
const isOff = (name: string) => button(name).hasAttribute('disabled')
const post = 'POST /api/swaps/spring-0001/detours'

beforeEach(() => {
  service.reset()
  closed = false
  service.answers['GET /api/refreshes/spring/spares'] = [
    { key: 'KB-98', model: 'Gannet 14', site: 'North Quay', trouble: null },
    { key: 'KB-99', model: null, site: 'Workshop', trouble: 'It did not come; look for it.' },
  ]
  service.answers[post] = (asked: { body: unknown }) => {
    const { dryRun, kind } = asked.body as { dryRun: boolean; kind: string }
    return { swap: 'spring-0001', name: 'Ida Moreau', kind, done: !dryRun, words: 'She comes later', lines: ['Nobody else is moved.'] }
  }
})
afterEach(() => cleanup())

describe('something goes otherwise', () => {
  it('shows what follows before anything is changed, and does just that', async () => {
    const user = await open(['late', 'noShow'])
    await user.click(button(/They come later/))
    await user.click(button('See what follows'))
    await screen.findByText('Nobody else is moved.')
    expect(closed).toBe(false)
    await user.click(button('Do it'))
    await screen.findByText('She comes later.')
    expect(service.changes().map((c) => c.body)).toMatchObject([
      { kind: 'late', minutes: 30, dryRun: true },
      { kind: 'late', minutes: 30, dryRun: false },
    ])
    expect(closed).toBe(true)
  })

  it('is looked at anew when something of it changes', async () => {
    const user = await open(['late', 'noShow'])
    await user.click(button(/They come later/))
    await user.click(button('See what follows'))
    await screen.findByText('Nobody else is moved.')
    await user.type(screen.getByLabelText(/What is there to say/), 'the ferry was late')
    expect(screen.queryByText('Nobody else is moved.')).toBeNull()
    await user.click(button('See what follows'))
    await screen.findByText('Nobody else is moved.')
    expect(service.changes().at(-1)?.body).toMatchObject({ reason: 'the ferry was late', dryRun: true })
  })

  it('is decided by a coordinator where it is no technician’s to decide', async () => {
    await open(['noShow', 'personGone', 'calledOff'], false)
    expect(screen.getByText('Nobody is there')).toBeTruthy()
    expect(screen.queryByText(/Call the swap off|do not come any more/)).toBeNull()
  })

  it('wants a reason where files or a promise are at stake', async () => {
    const user = await open(['calledOff', 'noShow'])
    await user.click(button(/Call the swap off/))
    await user.type(screen.getByLabelText(/Why/), '   ')
    expect(isOff('See what follows')).toBe(true)
    await user.type(screen.getByLabelText(/Why/), 'the department moves')
    expect(isOff('See what follows')).toBe(false)
  })

  it('offers only spares that can be given out', async () => {
    const user = await open(['deadOnArrival', 'noShow'])
    await user.click(button(/does not work/))
    await user.click(screen.getByRole('combobox', { name: /Which spare/ }))
    expect((await screen.findAllByRole('option', { hidden: true })).map((o) => o.textContent)).toEqual(['KB-98 · Gannet 14 · North Quay'])
  })

  it('wants the tag of the computer that came, and keeps it where it is refused', async () => {
    service.answers[post] = new Refusal(409, 'KB-8 is meant for Una Berg.')
    const user = await open(['wrongComputer', 'noShow'])
    await user.click(button(/Another new computer/))
    expect(isOff('See what follows')).toBe(true)
    await user.type(screen.getByLabelText(/Tag of the computer that came/), 'KB-8')
    await user.click(button('See what follows'))
    await screen.findByText('KB-8 is meant for Una Berg.')
    expect((screen.getByLabelText(/Tag of the computer that came/) as HTMLInputElement).value).toBe('KB-8')
    await user.click(screen.getByRole('checkbox', { name: /meant for somebody else/ }))
    await user.click(button('See what follows'))
    expect(service.changes().at(-1)?.body).toMatchObject({ tag: 'KB-8', exchange: true })
  })

  it('asks of a stolen computer what a thief could read, and says it', async () => {
    const user = await open(['stolen', 'noShow'])
    await user.click(button(/was stolen/))
    await user.type(screen.getByLabelText(/Where was it last/), 'the ferry of 9:40')
    await user.click(screen.getByRole('radio', { name: /it is encrypted/ }))
    await user.click(button('See what follows'))
    await screen.findByText('Nobody else is moved.')
    expect(service.changes().at(-1)?.body).toMatchObject({ kind: 'stolen', where: 'the ferry of 9:40', disk: 'encrypted', tag: null })
  })

  it('wants the day of who comes later, and who came in another’s place', async () => {
    service.answers['GET /api/refreshes/spring/swaps'] = {
      items: [
        { id: 'spring-0001', name: 'Ida Moreau', site: 'North Quay', appointment: null },
        { id: 'spring-0004', name: 'Una Berg', site: 'North Quay', appointment: null },
      ],
      total: 2,
    }
    const user = await open(['later', 'wrongPerson'])
    await user.click(button(/another day/))
    expect(isOff('See what follows')).toBe(true)
    await user.type(screen.getByLabelText(/first day/), '2026-12-14')
    expect(isOff('See what follows')).toBe(false)
    await user.click(button('Something else…'))
    await user.click(button(/Somebody else came/))
    expect(isOff('See what follows')).toBe(true)
    await user.type(screen.getByRole('combobox', { name: /Who came/ }), 'una')
    await user.click(await screen.findByRole('option', { name: /Una Berg/, hidden: true }))
    expect(screen.queryByRole('option', { name: /Ida Moreau/, hidden: true })).toBeNull()
    await user.click(button('See what follows'))
    await screen.findByText('Nobody else is moved.')
    expect(service.changes().at(-1)?.body).toMatchObject({ kind: 'wrongPerson', other: 'spring-0004', from: null, exchange: false })
  })
})
