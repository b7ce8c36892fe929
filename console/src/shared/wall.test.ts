import { expect, test } from 'vitest'
import { dayOf, instantAt, instantOf } from './wall'

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

test('a local time is the instant at which clocks there show it, on days with a clock change too', () => {
  expect(instantAt('2026-12-01T08:00', 'Europe/London')).toBe('2026-12-01T08:00:00.000Z')
  expect(instantAt('2026-07-01T08:00', 'Europe/Berlin')).toBe('2026-07-01T06:00:00.000Z')
  expect(instantAt('2026-03-29T12:00', 'Europe/Berlin')).toBe('2026-03-29T10:00:00.000Z')
  expect(instantAt('2026-03-29T01:30', 'Europe/Berlin')).toBe('2026-03-29T00:30:00.000Z')
  expect(instantAt('2026-10-25T12:00', 'America/New_York')).toBe('2026-10-25T16:00:00.000Z')
})
