import { describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { pointsOf } from './points'

const yard = {
  today: '2026-12-08',
  swaps: 10,
  done: 3,
  withoutAppointment: 1,
  progress: [
    { day: '2026-12-07', planned: 4, done: 2 },
    { day: '2026-12-08', planned: 8, done: 3 },
    { day: '2026-12-09', planned: 9, done: null },
  ],
} as Schemas['YardSeen']
const chance = (day: string, doneBy: number) => ({ day, visits: 1, doneBy, overtime: null, repeated: null, isBeyond: false })
const outlook = (sureDay: string | null) =>
  ({
    days: [chance('2026-12-08', 0.1), chance('2026-12-09', 0.4), chance('2026-12-10', 0.7), chance('2026-12-11', 0.96)],
    sureDay,
  }) as Schemas['OutlookSeen']

describe('the plot of done against plan', () => {
  it('goes on from today to the days on which all may be over, also beyond the plan', () => {
    expect(pointsOf(yard, outlook('2026-12-11'))).toEqual([
      { day: '2026-12-07', planned: 4, done: 2 },
      { day: '2026-12-08', planned: 8, done: 3, even: 3, sure: 3 },
      { day: '2026-12-09', planned: 9, done: null },
      { day: '2026-12-10', even: 9 },
      { day: '2026-12-11', sure: 9 },
    ])
  })

  it('says nothing that it does not know', () => {
    expect(pointsOf(yard, undefined)).toHaveLength(3)
    expect(pointsOf(yard, outlook(null)).some((p) => p.sure !== undefined && p.day > yard.today)).toBe(false)
    expect(pointsOf({ ...yard, done: 9 }, outlook('2026-12-11'))).toHaveLength(3)
  })
})
