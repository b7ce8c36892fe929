import type { Detour, DetourTold } from './queries'
import { needsReason } from './words'

/** What is typed and chosen about something that goes otherwise; nothing of it is lost when the kind changes. */
export type Draft = {
  kind: Detour | null
  reason: string
  minutes: number | string
  tag: string
  exchange: boolean
  soonest: boolean
  receiver: string
  where: string
  disk: 'unknown' | 'encrypted' | 'plain'
  from: string
  other: string
}

export const empty: Draft = {
  kind: null,
  reason: '',
  minutes: 30,
  tag: '',
  exchange: false,
  soonest: true,
  receiver: '',
  where: '',
  disk: 'unknown',
  from: '',
  other: '',
}

export const isMissing = (kind: Detour | null) => kind === 'stolen' || kind === 'lost'

const text = (typed: string) => typed.trim() || null

/** What the service is told: only what is asked of this kind. */
export const toldOf = (d: Draft, dryRun: boolean): DetourTold => ({
  kind: d.kind ?? 'noShow',
  dryRun,
  reason: text(d.reason),
  minutes: d.kind === 'late' ? Number(d.minutes) : null,
  tag: d.kind === 'wrongComputer' || d.kind === 'deadOnArrival' || isMissing(d.kind) ? text(d.tag) : null,
  exchange: d.kind === 'wrongComputer' || d.kind === 'wrongPerson' ? d.exchange : null,
  soonest: d.kind === 'noShow' ? d.soonest : null,
  receiver: d.kind === 'personGone' ? text(d.receiver) : null,
  where: isMissing(d.kind) || d.kind === 'found' ? text(d.where) : null,
  disk: isMissing(d.kind) ? d.disk : null,
  from: d.kind === 'later' ? text(d.from) : null,
  other: d.kind === 'wrongPerson' ? text(d.other) : null,
})

/** Whether all is there that must be. */
export const isReady = (d: Draft) =>
  !!d.kind &&
  (!needsReason.includes(d.kind) || !!d.reason.trim()) &&
  (d.kind !== 'wrongComputer' || !!d.tag.trim()) &&
  (d.kind !== 'late' || Number(d.minutes) >= 5) &&
  (d.kind !== 'found' || !!d.where.trim()) &&
  (d.kind !== 'later' || !!d.from) &&
  (d.kind !== 'wrongPerson' || !!d.other)
