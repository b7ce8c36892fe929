import { describe, expect, it } from 'vitest'
import { visible } from './visible'

describe('a name of a file', () => {
  it('shows what would turn, part or hide it as its number, and all else as it is', () => {
    expect(visible('invoice\u202Exslx.exe')).toBe('invoice\\u202Exslx.exe')
    expect(visible('a\nb\u0000\u200Bc')).toBe('a\\u000Ab\\u0000\\u200Bc')
    expect(visible('Größe – שלום 👩‍🚀.txt')).toBe('Größe – שלום 👩‍🚀.txt')
  })
})
