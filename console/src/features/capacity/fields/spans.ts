/** A day, several days, or from a time to a time; days alone are whole. */
export type Span = { from: string; until: string; isWhole: boolean; fromTime: string; untilTime: string }

const day = /^\d{4}-\d{2}-\d{2}$/
const time = /^(\d{4}-\d{2}-\d{2})[ T](\d{2}:\d{2})$/

/** Reads a line such as 2026-11-25, 2026-11-25..2026-11-27 or 2026-11-25 08:00..2026-11-25 12:00; null: it is something else. */
export function readSpan(line: string): Span | null {
  const [a = '', b = a, more] = line.split('..').map((part) => part.trim())
  if (more !== undefined) return null
  if (day.test(a) && day.test(b)) return { from: a, until: b, isWhole: true, fromTime: '08:00', untilTime: '17:00' }
  const [from, until] = [time.exec(a), time.exec(b)]
  if (!from || !until || a === b) return null
  return { from: from[1] ?? '', until: until[1] ?? '', isWhole: false, fromTime: from[2] ?? '', untilTime: until[2] ?? '' }
}

/** The line of a span. */
export const writeSpan = (s: Span): string =>
  !s.isWhole ? `${s.from} ${s.fromTime}..${s.until} ${s.untilTime}` : s.until && s.until !== s.from ? `${s.from}..${s.until}` : s.from
