import { formatter } from './formats'

const wall: Intl.DateTimeFormatOptions = {
  year: 'numeric',
  month: 'numeric',
  day: 'numeric',
  hour: 'numeric',
  minute: 'numeric',
  second: 'numeric',
  hourCycle: 'h23',
}
const date: Intl.DateTimeFormatOptions = { year: 'numeric', month: '2-digit', day: '2-digit' }
const time: Intl.DateTimeFormatOptions = { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' }

/** How far a zone's wall clock is ahead of UTC at an instant, in milliseconds. */
function offsetAt(at: number, zone: string): number {
  const parts = formatter(zone, wall).formatToParts(new Date(at))
  const of = (type: string) => Number(parts.find((p) => p.type === type)?.value)
  return Date.UTC(of('year'), of('month') - 1, of('day'), of('hour'), of('minute'), of('second')) - Math.floor(at / 1000) * 1000
}

/** The instant at which the clock on the wall of `zone` shows so many minutes after midnight of `day` (2026-11-25). */
export function instantOf(day: string, minutes: number, zone: string): number {
  const shown = Date.parse(`${day}T00:00:00Z`) + minutes * 60_000
  const once = shown - offsetAt(shown, zone)
  return shown - offsetAt(once, zone)
}

/** The instant at which the clock on the wall of `zone` shows a local time, 2026-12-01T08:00; one that clocks skip is taken an hour later. */
export const instantAt = (local: string, zone: string) => {
  const [day = '', time = ''] = local.split('T')
  const [hours = 0, minutes = 0] = time.split(':').map(Number)
  return new Date(instantOf(day, hours * 60 + minutes, zone)).toISOString()
}

/** The day that the calendar on the wall of `zone` shows at an instant. */
export function dayOf(at: string | number, zone: string): string {
  const [day, month, year] = formatter(zone, date).format(new Date(at)).split('/')
  return `${year}-${month}-${day}`
}

/** What the clock on the wall of `zone` shows at an instant: 09:15. */
export const wallTime = (at: string | number, zone: string) => formatter(zone, time).format(new Date(at))

export const dayText = (day: string, options: Intl.DateTimeFormatOptions = { weekday: 'short', day: 'numeric', month: 'short' }) =>
  formatter('UTC', options).format(new Date(`${day}T12:00:00Z`))
