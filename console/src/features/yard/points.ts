import type { Schemas } from '../../api/client'

type Point = { day: string; planned?: number | null; done?: number | null; even?: number; sure?: number }

/** The days of the plot: what was planned and done, and two straight ways from today to the days on which all may be over. */
export function pointsOf(yard: Schemas['YardSeen'], outlook: Schemas['OutlookSeen'] | undefined): Point[] {
  const points = new Map<string, Point>(yard.progress.map((d) => [d.day, { day: d.day, planned: d.planned, done: d.done }]))
  const put = (day: string, more: Partial<Point>) => points.set(day, { ...(points.get(day) ?? { day }), ...more })
  const even = outlook?.days.find((d) => d.doneBy >= 0.5)?.day
  const sure = outlook?.sureDay
  // What has no appointment is over on no day that a forecast of appointments can tell.
  const all = yard.swaps - yard.withoutAppointment
  if (even && even > yard.today && yard.done < all) {
    put(yard.today, { even: yard.done, sure: yard.done })
    put(even, { even: all })
    if (sure) put(sure, { sure: all })
  }
  return [...points.values()].sort((a, b) => a.day.localeCompare(b.day))
}
