/** How far a zone's wall clock is ahead of UTC at an instant, in milliseconds. */
function offsetAt(at: number, zone: string): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: zone,
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
    hourCycle: 'h23',
  }).formatToParts(new Date(at))
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value)
  return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'), of('second')) - Math.floor(at / 1000) * 1000
}

/** The instant at which the clock on the wall of `zone` shows so many minutes after midnight of `day` (2026-11-25). */
export function instantOf(day: string, minutes: number, zone: string): number {
  const wall = Date.parse(`${day}T00:00:00Z`) + minutes * 60_000
  const once = wall - offsetAt(wall, zone)
  return wall - offsetAt(once, zone)
}

/** The day that the calendar on the wall of `zone` shows at an instant. */
export function dayOf(at: string | number, zone: string): string {
  const parts = new Intl.DateTimeFormat('en-GB', { timeZone: zone, year: 'numeric', month: '2-digit', day: '2-digit' }).formatToParts(
    new Date(at),
  )
  const of = (type: string) => parts.find((p) => p.type === type)?.value ?? ''
  return `${of('year')}-${of('month')}-${of('day')}`
}

export const dayText = (day: string, options: Intl.DateTimeFormatOptions = { weekday: 'short', day: 'numeric', month: 'short' }) =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(new Date(`${day}T12:00:00Z`))
