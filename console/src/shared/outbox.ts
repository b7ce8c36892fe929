import { get, set } from 'idb-keyval'
import { useSyncExternalStore } from 'react'
import type { Checklist, Step } from '../api/client'

/** What somebody said about a step where there was no network: kept on the device until the service has it. */
export type Waiting = {
  id: string
  /** Name of the account that said it; nobody else's work is sent. */
  account: string
  swap: string
  person: string
  step: { key: string; title: string }
  change: { claim: string; tag?: string | null; reason?: string | null; value?: string | null; photo?: Blob }
  /** By this device's clock, in milliseconds; only how long ago it was is told. */
  doneAt: number
  /** How the step stood when it was said. */
  seen: { state: string; at: string | null }
  /** Put over what a colleague did, because somebody decided so. */
  over: boolean
  /** Why it was not taken as it is. */
  stuck: { words: string; theirs: string | null } | null
}

const key = 'yard-outbox'
let list: Waiting[] = []
let ready: Promise<void> | null = null
const listeners = new Set<() => void>()

// A browser that keeps nothing, as some do in private windows, still has what was said until the page is closed.
const store = {
  read: async () => (typeof indexedDB === 'undefined' ? [] : ((await get<Waiting[]>(key).catch(() => [])) ?? [])),
  write: async (all: Waiting[]) => {
    if (typeof indexedDB !== 'undefined') await set(key, all).catch(() => undefined)
  },
}

const change = async (next: Waiting[]) => {
  list = next
  for (const tell of listeners) tell()
  await store.write(next)
}

export const outbox = {
  /** What was kept by an earlier visit; looked at once. */
  open: () => {
    ready ??= store.read().then((kept) => {
      list = [...kept, ...list]
      for (const tell of listeners) tell()
    })
    return ready
  },
  all: () => list,
  add: (item: Waiting) => change([...list, item]),
  drop: (id: string) => change(list.filter((w) => w.id !== id)),
  put: (item: Waiting) => change(list.map((w) => (w.id === item.id ? item : w))),
  /** Later claims on the same step rest on this one. */
  settle: (sent: Waiting, now: { state: string; at: string | null }) =>
    change(
      list
        .filter((w) => w.id !== sent.id)
        .map((w) =>
          w.swap === sent.swap && w.step.key === sent.step.key && !w.stuck ? { ...w, seen: { state: now.state, at: now.at } } : w,
        ),
    ),
  subscribe: (tell: () => void) => {
    listeners.add(tell)
    return () => {
      listeners.delete(tell)
    }
  },
}

export const useOutbox = () => useSyncExternalStore(outbox.subscribe, outbox.all)

/** Stands where the name of who did it stands. */
export const notSent = 'you, not sent yet'

/** How a step stands once it is so. */
export const after = (step: Step, waiting: Pick<Waiting, 'change' | 'doneAt'>, by = notSent): Step => {
  const at = new Date(waiting.doneAt).toISOString()
  switch (waiting.change.claim) {
    case 'reopened':
      return { ...step, state: 'open', by: null, at: null, value: null, reason: null, startedAt: null, runs: 0 }
    case 'started':
      return { ...step, state: 'under-way', by, at, startedAt: at }
    case 'ran':
      return { ...step, state: 'under-way', by, at, runs: Number(step.runs) + 1 }
    case 'not-applicable':
      return { ...step, state: 'not-applicable', by, at, reason: waiting.change.reason ?? null }
    default:
      return { ...step, state: 'done', by, at, value: waiting.change.value ?? step.value }
  }
}

/** The checklist with what waits to be sent already in it. */
export function withWaiting(checklist: Checklist, swap: string, waiting: readonly Waiting[]): Checklist {
  const mine = waiting.filter((w) => w.swap === swap && !w.stuck)
  if (mine.length === 0) return checklist
  return {
    ...checklist,
    steps: checklist.steps.map((step) => mine.filter((w) => w.step.key === step.key).reduce((now, w) => after(now, w), step)),
  }
}
