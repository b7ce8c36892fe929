import { QueryClient } from '@tanstack/react-query'
import { beforeEach, describe, expect, it } from 'vitest'
import type { Step } from '../api/client'
import { Refusal, service } from '../test-service'
import { outbox, type Waiting, withWaiting } from './outbox'
import { sendAll } from './sending'

const doneAt = Date.parse('2026-12-07T09:00:00Z')
const step = (over: Partial<Step> = {}) =>
  ({ key: 'told', title: 'Told', state: 'open', by: null, at: null, value: null, runs: 0, ...over }) as unknown as Step
const waiting = (id: string, over: Partial<Waiting> = {}): Waiting => ({
  id,
  account: 'noor',
  swap: 'spring-1',
  person: 'Ida Moreau',
  step: { key: 'told', title: 'Told' },
  change: { claim: 'ticked', tag: null, reason: null, value: null },
  doneAt,
  seen: { state: 'open', at: null },
  over: false,
  stuck: null,
  ...over,
})
const get = 'GET /api/swaps/spring-1'
const put = 'PUT /api/swaps/spring-1/checklist/steps/told'
const mine = { state: 'done', by: 'Noor', at: '2026-12-07T09:00:01Z' }
const send = () => sendAll(new QueryClient(), 'noor', 'Noor')

beforeEach(async () => {
  service.reset()
  for (const w of outbox.all()) await outbox.drop(w.id)
})

describe('steps that wait', () => {
  it('are sent once: where the answer was lost, the service has it already', async () => {
    await outbox.add(waiting('a'))
    service.answers[get] = { checklist: { version: 4, steps: [step(mine)] } }
    await send()
    expect([outbox.all(), service.changes()]).toEqual([[], []])
  })

  it('rest on each other, and go with their age', async () => {
    let now = step()
    await outbox.add(waiting('a', { change: { claim: 'started', tag: null, reason: null, value: null } }))
    await outbox.add(waiting('b', { seen: { state: 'under-way', at: 'whatever the device showed' } }))
    expect(withWaiting({ steps: [now] } as never, 'spring-1', outbox.all()).steps[0]?.state).toBe('done')
    service.answers[get] = () => ({ checklist: { version: 4, steps: [now] } })
    service.answers[put] = ({ body }: { body: unknown }) => {
      now = step({ ...mine, state: (body as { claim: string }).claim === 'started' ? 'under-way' : 'done', at: '2026-12-07T08:00:00Z' })
      return { version: 5, steps: [now] }
    }
    await send()
    expect(outbox.all()).toEqual([])
    const bodies = service.changes().map((c) => c.body as { claim: string; ageSeconds: number })
    expect(bodies.map((b) => b.claim)).toEqual(['started', 'ticked'])
    for (const b of bodies) expect(b.ageSeconds).toBe(Math.max(0, Math.round((Date.now() - doneAt) / 1000)))
  })

  it('are kept with why where they are refused or a colleague was there, and others’ are never sent', async () => {
    await outbox.add(waiting('theirs', { account: 'vera' }))
    await outbox.add(waiting('a'))
    service.answers[get] = { checklist: { version: 4, steps: [step()] } }
    service.answers[put] = new Refusal(409, 'It is signed off and frozen.')
    await send()
    expect(outbox.all().map((w) => w.stuck?.words ?? null)).toEqual([null, 'It is signed off and frozen.'])
    await outbox.drop('a')
    await outbox.add(waiting('b'))
    service.answers[get] = {
      checklist: { version: 5, steps: [step({ state: 'done', by: 'Vera', at: '2026-12-07T08:00:00Z' } as Partial<Step>)] },
    }
    await send()
    expect(outbox.all()[1]?.stuck?.theirs).toBe('Vera: done')
    expect(service.changes()).toHaveLength(1)
  })
})
