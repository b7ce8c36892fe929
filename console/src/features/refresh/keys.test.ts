import { describe, expect, it } from 'vitest'
import { keyOf } from './keys'

describe('a key from a name', () => {
  it('has small letters, digits and dashes, also of names in other letters', () => {
    expect(keyOf('Autumn at Kestrel Bay')).toBe('autumn-at-kestrel-bay')
    expect(keyOf('Größe & Café №2')).toBe('grosse-cafe-no2')
    for (const name of ['…', '東京', '  ', '-a-', 'x'.repeat(90), `${'y'.repeat(39)} z`])
      for (const turn of [1, 2, 13]) expect(keyOf(name, turn)).toMatch(/^[a-z0-9]([a-z0-9-]{0,38}[a-z0-9])?$/)
  })

  it('differs by turn', () => {
    const long = 'x'.repeat(60)
    expect(new Set([1, 2, 3, 10].map((turn) => keyOf(long, turn))).size).toBe(4)
  })
})
