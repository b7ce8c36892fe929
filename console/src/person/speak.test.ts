import { describe, expect, it } from 'vitest'
import { Refused } from '../api/client'
import { speak } from './speak'

describe('the page speaks', () => {
  it('a refusal is said in the language of the page, and in the service’s own words where the page has none', () => {
    const refused = new Refused(409, 'slot.taken', 'Somebody was faster.')
    expect(speak('de', 'UTC').told(refused)).toContain('Jemand war schneller')
    expect(speak('en', 'UTC').told(refused)).toBe('Somebody was faster.')
    expect(speak('de', 'UTC').told(new Refused(409, 'unheard-of', 'Own words.'))).toBe('Own words.')
    expect(speak('de', 'UTC').told(null)).toBe('')
  })
})
