import { describe, expect, it } from 'vitest'
import type { SwapListed } from '../../api/client'
import { lanesOf } from './DayBoard'

const visit = (id: string, start: string, end: string) =>
  ({ id, appointment: { start: `2026-11-25T${start}:00Z`, end: `2026-11-25T${end}:00Z` } }) as SwapListed

describe('lanes of a day', () => {
  it('puts visits that are under way at once below each other, and those that follow one another side by side', () => {
    const lanes = lanesOf([
      visit('b', '08:45', '10:30'),
      visit('a', '08:00', '09:30'),
      visit('c', '09:30', '11:00'),
      visit('d', '10:30', '12:00'),
    ])
    expect(lanes.map((lane) => lane.map((v) => v.id))).toEqual([
      ['a', 'c'],
      ['b', 'd'],
    ])
  })

  it('never lets two visits of one lane overlap', () => {
    const times = Array.from({ length: 40 }, (_, i) => ({ from: (i * 37) % 480, length: 30 + ((i * 53) % 120) }))
    const text = (m: number) => `${String(8 + Math.floor(m / 60)).padStart(2, '0')}:${String(m % 60).padStart(2, '0')}`
    for (const lane of lanesOf(times.map((t, i) => visit(`${i}`, text(t.from), text(t.from + t.length)))))
      for (let i = 1; i < lane.length; i++)
        expect(Date.parse(lane[i - 1]?.appointment?.end ?? '')).toBeLessThanOrEqual(Date.parse(lane[i]?.appointment?.start ?? ''))
  })
})
