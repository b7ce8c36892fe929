import { expect, test } from 'vitest'
import { dayOf, instantOf } from './time'

test.each([
  ['2026-11-25', 9 * 60, 'UTC', '2026-11-25T09:00:00.000Z'],
  ['2026-07-01', 9 * 60, 'Europe/Berlin', '2026-07-01T07:00:00.000Z'],
  ['2026-03-29', 60, 'Europe/Berlin', '2026-03-29T00:00:00.000Z'],
  ['2026-03-29', 9 * 60, 'Europe/Berlin', '2026-03-29T07:00:00.000Z'],
  ['2026-10-25', 9 * 60, 'Europe/Berlin', '2026-10-25T08:00:00.000Z'],
  ['2026-11-25', 0, 'Pacific/Auckland', '2026-11-24T11:00:00.000Z'],
])('on %s, %i minutes after midnight on the wall of %s is an instant and leads back to its day', (day, minutes, zone, instant) => {
  expect(new Date(instantOf(day, minutes, zone)).toISOString()).toBe(instant)
  expect(dayOf(instant, zone)).toBe(day)
})
