import { describe, expect, it } from 'vitest'
import { Refused } from '../api/client'
import { instantAt, speak } from './speak'

describe('the page speaks', () => {
  it('a local time is the instant at which clocks there show it, on days with a clock change too', () => {
    expect(instantAt('2026-12-01T08:00', 'Europe/London')).toBe('2026-12-01T08:00:00.000Z')
    expect(instantAt('2026-07-01T08:00', 'Europe/Berlin')).toBe('2026-07-01T06:00:00.000Z')
    expect(instantAt('2026-03-29T12:00', 'Europe/Berlin')).toBe('2026-03-29T10:00:00.000Z')
    expect(instantAt('2026-03-29T01:30', 'Europe/Berlin')).toBe('2026-03-29T00:30:00.000Z')
    expect(instantAt('2026-10-25T12:00', 'America/New_York')).toBe('2026-10-25T16:00:00.000Z')
  })

  it('a refusal is said in the language of the page, and in the service’s own words where the page has none', () => {
    const refused = new Refused(409, 'slot.taken', 'Somebody was faster.')
    expect(speak('de', 'UTC').told(refused)).toContain('Jemand war schneller')
    expect(speak('en', 'UTC').told(refused)).toBe('Somebody was faster.')
    expect(speak('de', 'UTC').told(new Refused(409, 'unheard-of', 'Own words.'))).toBe('Own words.')
    expect(speak('de', 'UTC').told(null)).toBe('')
  })
})
