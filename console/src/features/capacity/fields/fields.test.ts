import { describe, expect, it } from 'vitest'
import { readShift, weekdays, writeShift } from './shifts'
import { readSpan, writeSpan } from './spans'

describe('shifts', () => {
  it('are read as they were written, on any days', () => {
    for (let bits = 1; bits < 128; bits++) {
      const days = weekdays.filter((_, i) => bits & (1 << i))
      const shift = { days, from: '08:00', until: bits % 2 ? '12:30' : '06:15' }
      expect(readShift(writeShift(shift))).toEqual(shift)
    }
  })

  it('have a short form for every day and for weekdays', () => {
    expect(writeShift({ days: [...weekdays], from: '07:00', until: '19:00' })).toBe('daily 07:00-19:00')
    expect(writeShift({ days: weekdays.slice(0, 5), from: '08:00', until: '12:00' })).toBe('08:00-12:00')
  })

  it('are left as text where they are something else', () => {
    for (const odd of ['', 'mon', '8-12', 'mon,xyz 08:00-12:00', 'mon 08:00-12:00 more', '25:00-26:00']) expect(readShift(odd)).toBeNull()
  })
})

describe('days and stretches', () => {
  it('are read as they were written', () => {
    for (const line of [
      '2026-12-24',
      '2026-12-24..2026-12-26',
      '2026-12-24 08:00..2026-12-24 12:00',
      '2026-12-24 08:00..2026-12-27 12:00',
    ]) {
      const span = readSpan(line)
      expect(span && writeSpan(span)).toBe(line)
    }
    for (const odd of ['', 'tomorrow', '2026-12-24 08:00', '2026-12-24..x', 'a..b..c']) expect(readSpan(odd)).toBeNull()
  })
})
