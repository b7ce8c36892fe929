import type { QueryClient } from '@tanstack/react-query'
import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { api, Refused, type Step, take } from '../api/client'
import { outbox, type Waiting } from './outbox'

const every = 8_000

const said = (step: Step) =>
  step.state === 'open'
    ? 'it is open'
    : `${step.by}: ${step.state === 'not-applicable' ? `does not apply, ${step.reason}` : step.state === 'under-way' ? 'under way' : (step.value ?? 'done')}`

/** Tells the service what was said about a step; with an age where it was said earlier. */
export const sendClaim = (
  swap: string,
  step: string,
  version: number | string,
  { photo, ...change }: Waiting['change'],
  ageSeconds?: number,
) => {
  const headers = { 'If-Match': `"${version}"` }
  if (photo)
    return take(
      api.PUT('/api/swaps/{swap}/checklist/steps/{step}/photo', {
        params: { path: { swap, step }, query: { ageSeconds } },
        headers,
        body: photo as never,
        bodySerializer: (body: unknown) => body as Blob,
      }),
    )
  return take(
    api.PUT('/api/swaps/{swap}/checklist/steps/{step}', {
      params: { path: { swap, step } },
      headers,
      body: { tag: null, reason: null, value: null, ...change, ...(ageSeconds === undefined ? {} : { ageSeconds }) },
    }),
  )
}

const claim = (waiting: Waiting, version: number | string, what: Waiting['change']) =>
  sendClaim(waiting.swap, waiting.step.key, version, what, Math.max(0, Math.round((Date.now() - waiting.doneAt) / 1000)))

/** Sends one; true: the next may follow. What does not fit is kept, with why, until somebody decides. */
async function send(waiting: Waiting, mine: string): Promise<boolean> {
  const stuck = (words: string, theirs: string | null = null) => outbox.put({ ...waiting, stuck: { words, theirs } })
  for (let turn = 0; turn < 5; turn++) {
    try {
      const { checklist } = await take(api.GET('/api/swaps/{swap}', { params: { path: { swap: waiting.swap } }, cache: 'no-store' }))
      const step = checklist.steps.find((s) => s.key === waiting.step.key)
      if (!step) {
        await stuck('The checklist has no such step any more.')
        return true
      }
      if (step.state !== waiting.seen.state || step.at !== waiting.seen.at) {
        // The answer to an earlier try was lost: the service has it.
        const age = step.at ? Math.abs(Date.parse(step.at) - waiting.doneAt) : Number.POSITIVE_INFINITY
        if (step.by === mine && age < 5_000 && step.state !== 'open') {
          await outbox.settle(waiting, step)
          return true
        }
        if (!waiting.over) {
          await stuck('A colleague dealt with this step meanwhile.', said(step))
          return true
        }
      }
      let { version } = checklist
      if (waiting.over && step.state !== 'open') version = (await claim(waiting, version, { claim: 'reopened' })).version
      const now = await claim(waiting, version, waiting.change)
      const done = now.steps.find((s) => s.key === waiting.step.key)
      await outbox.settle(waiting, { state: done?.state ?? 'open', at: done?.at ?? null })
      return true
    } catch (error) {
      if (!(error instanceof Refused) || error.status === 0 || error.status === 401 || error.status >= 500) return false
      if (error.status === 412) continue
      await stuck(error.message)
      return true
    }
  }
  return false
}

let sending = false

export async function sendAll(queries: QueryClient, account: string, mine: string) {
  if (sending) return
  sending = true
  const work = async () => {
    await outbox.open()
    let sent = 0
    for (let next = first(account); next; next = first(account)) {
      if (!(await send(next, mine))) break
      sent++
    }
    if (sent > 0) await queries.invalidateQueries({ queryKey: ['swaps'] })
  }
  try {
    // One page of this browser sends, not each.
    if (navigator.locks) await navigator.locks.request('yard-outbox', { ifAvailable: true }, async (lock) => (lock ? work() : undefined))
    else await work()
  } finally {
    sending = false
  }
}

const first = (account: string) => outbox.all().find((w) => w.account === account && !w.stuck)

/** Sends what waits as soon as there is a network. */
export function useSending(account: string | undefined, mine: string | undefined) {
  const queries = useQueryClient()
  useEffect(() => {
    if (!account || !mine) return
    const look = () => {
      if (first(account)) void sendAll(queries, account, mine)
    }
    void outbox.open().then(look)
    const timer = setInterval(look, every)
    window.addEventListener('online', look)
    const stop = outbox.subscribe(() => setTimeout(look, 0))
    return () => {
      clearInterval(timer)
      window.removeEventListener('online', look)
      stop()
    }
  }, [account, mine, queries])
}
