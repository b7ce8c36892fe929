import { render, screen } from '@testing-library/react'
import { describe, expect, it } from 'vitest'
import type { SwapListed } from '../api/client'
import { SmallLine, wagonShare } from './Line'

const swap = (next: number, moving: Partial<NonNullable<SwapListed['moving']>> | null) =>
  ({
    id: 's',
    next,
    sign: { sign: moving ? 'moving' : 'wants', words: '' },
    line: ['told', 'surveyed', 'booked', 'staged'].map((station, i) => ({
      station,
      at: i < next ? '2026-11-25T08:00:00Z' : null,
      expected: null,
    })),
    moving: moving && {
      order: 'o',
      kind: 'first-trip',
      files: 0,
      totalFiles: 0,
      bytes: 0,
      totalBytes: 0,
      bytesPerSecond: 0,
      since: '',
      ...moving,
    },
  }) as SwapListed

describe('the line', () => {
  it('puts the wagon at its true fraction, by bytes, else by files', () => {
    expect(wagonShare(swap(3, { bytes: 30, totalBytes: 120 }))).toBe(0.25)
    expect(wagonShare(swap(3, { files: 1, totalFiles: 2 }))).toBe(0.5)
    expect(wagonShare(swap(3, { bytes: 300, totalBytes: 120 }))).toBe(1)
    expect(wagonShare(swap(3, null))).toBe(0)
  })

  it('says in words what it draws', () => {
    render(<SmallLine swap={swap(2, null)} />)
    expect(screen.getByRole('img', { name: 'Behind: Told, Surveyed. Next: Booked.' })).toBeInTheDocument()
  })
})
