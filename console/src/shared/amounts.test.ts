import { describe, expect, it } from 'vitest'
import { ageText, bytesText, countText } from './amounts'

describe('amounts', () => {
  it('are written in decimal units with at most one decimal, and never round up into four digits', () => {
    expect([0, 999, 1000, 48_000, 6_100_000_000, 99_960_000, 999_600].map(bytesText)).toEqual([
      '0 B',
      '999 B',
      '1 kB',
      '48 kB',
      '6.1 GB',
      '100 MB',
      '1 MB',
    ])
  })

  it('are blank instead of zero', () => {
    expect([0, 8402].map(countText)).toEqual(['', '8,402'])
  })

  it('give an age in the unit a person would say', () => {
    expect([4, 89, 660, 5400, 172_800].map(ageText)).toEqual(['4 s', '89 s', '11 min', '1 h 30', '2 d'])
  })
})
