export const weekdays = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'] as const
export type Weekday = (typeof weekdays)[number]

/** Hours that come back on some days of the week; until may lie on the next day. */
export type Shift = { days: Weekday[]; from: string; until: string }

const workdays = weekdays.slice(0, 5)
const isDay = (text: string): text is Weekday => (weekdays as readonly string[]).includes(text)
const hour = /^([01]\d|2[0-3]):[0-5]\d$/

/** Reads a line such as 08:00-12:00, daily 08:00-12:00 or mon,wed 08:00-12:00; null: it is something else. */
export function readShift(line: string): Shift | null {
  const parts = line.trim().split(/\s+/)
  const hours = parts[parts.length - 1]?.split('-') ?? []
  const [from = '', until = ''] = hours
  if (parts.length > 2 || hours.length !== 2 || !hour.test(from) || !(hour.test(until) || until === '24:00')) return null
  if (parts.length === 1) return { days: [...workdays], from, until }
  const named = (parts[0] ?? '').toLowerCase()
  const days = named === 'daily' ? [...weekdays] : named.split(',').map((d) => d.trim())
  return days.every(isDay) ? { days: weekdays.filter((d) => days.includes(d)), from, until } : null
}

/** The line of a shift. */
export function writeShift({ days, from, until }: Shift): string {
  const on = weekdays.filter((d) => days.includes(d))
  if (on.length === weekdays.length) return `daily ${from}-${until}`
  if (on.length === workdays.length && workdays.every((d) => on.includes(d))) return `${from}-${until}`
  return `${on.join(',')} ${from}-${until}`
}
