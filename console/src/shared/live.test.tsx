import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { act, render, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Day, SwapListed, SwapSeen } from '../api/client'
import { useLive } from './live'

/** The browser's stream, with its other end in the test's hand. */
class Stream extends EventTarget {
  static all: Stream[] = []
  onopen: (() => void) | null = null
  onerror: (() => void) | null = null
  closed = false
  constructor(readonly url: string) {
    super()
    Stream.all.push(this)
  }
  close() {
    this.closed = true
  }
  say(type: string, data: unknown) {
    this.dispatchEvent(new MessageEvent(type, { data: JSON.stringify(data) }))
  }
}

const swap = (id: string, files: number | null) =>
  ({
    id,
    moving: files === null ? null : { order: 'o', kind: 'first-trip', files, totalFiles: 100, bytes: 0, totalBytes: 0 },
  }) as SwapListed

let queries: QueryClient
let looks: number

beforeEach(() => {
  vi.useFakeTimers()
  vi.stubGlobal('EventSource', Stream)
  Stream.all = []
  looks = 0
  queries = new QueryClient()
  vi.spyOn(queries, 'invalidateQueries').mockImplementation(async () => {
    looks++
  })
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

function Page({ refresh }: { refresh?: string }) {
  return <p>{useLive(refresh) ? 'live' : 'not live'}</p>
}

const open = (refresh?: string) =>
  render(
    <QueryClientProvider client={queries}>
      <Page refresh={refresh} />
    </QueryClientProvider>,
  )

describe('the live stream', () => {
  it('looks once at the service for many entries that come together', () => {
    open('spring 1')
    const [stream] = Stream.all
    expect(stream?.url).toBe('/api/refreshes/spring%201/events')
    act(() => {
      for (let i = 0; i < 40; i++) stream?.say('entry', { number: i })
      vi.advanceTimersByTime(300)
    })
    expect(looks).toBe(1)
    act(() => {
      stream?.say('entry', { number: 41 })
      vi.advanceTimersByTime(300)
    })
    expect(looks).toBe(2)
  })

  it('moves what is shown by its progress, and nothing else, without asking', () => {
    queries.setQueryData<Day>(['today', 'spring'], { moving: [swap('a', 1), swap('b', 2)], visits: [swap('a', 1), swap('c', null)] } as Day)
    queries.setQueryData<SwapSeen>(['swaps', 'one', 'a'], { swap: swap('a', 1) } as SwapSeen)
    open('spring')
    act(() =>
      Stream.all[0]?.say('progress', { order: 'o', swap: 'a', kind: 'first-trip', files: 77, totalFiles: 100, bytes: 5, totalBytes: 9 }),
    )
    const day = queries.getQueryData<Day>(['today', 'spring'])
    expect(day?.moving.map((s) => s.moving?.files)).toEqual([77, 2])
    expect(day?.visits.map((s) => s.moving?.files)).toEqual([77, undefined])
    expect(queries.getQueryData<SwapSeen>(['swaps', 'one', 'a'])?.swap.moving?.files).toBe(77)
    expect(looks).toBe(0)
  })

  it('says when it broke off, and looks again once it is back', () => {
    open('spring')
    const [stream] = Stream.all
    act(() => stream?.onopen?.())
    expect(looks).toBe(0)
    act(() => stream?.onerror?.())
    expect(screen.getByText('not live')).toBeInTheDocument()
    act(() => stream?.onopen?.())
    act(() => vi.advanceTimersByTime(300) && undefined)
    expect(screen.getByText('live')).toBeInTheDocument()
    expect(looks).toBe(1)
  })

  it('is closed with the page, and not opened without a refresh', () => {
    open(undefined)
    expect(Stream.all).toHaveLength(0)
    const { unmount } = open('spring')
    unmount()
    expect(Stream.all[0]?.closed).toBe(true)
  })
})
