import { describe, expect, it } from 'vitest'
import { reasonOf } from './Why'

describe('a reason', () => {
  it('is said in words, and the rule stands behind', () => {
    expect(reasonOf('Rule 4, benches: North Quay is full. One more bench lets it in.')).toEqual({
      rule: 'Rule 4, benches',
      words: 'North Quay is full. One more bench lets it in.',
    })
    expect(reasonOf('Rules 3 and 4, technician and benches: one more of each.')).toEqual({
      rule: 'Rules 3 and 4, technician and benches',
      words: 'One more of each.',
    })
    expect(reasonOf('Rules 3 to 6: in all of its windows all are taken.').rule).toBe('Rules 3 to 6')
  })

  it('without a rule stays as it is', () => {
    expect(reasonOf('Nobody looked yet: order a survey.')).toEqual({ rule: null, words: 'Nobody looked yet: order a survey.' })
  })
})
