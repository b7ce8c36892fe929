import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import type { Day, SwapListed, SwapSeen } from '../api/client'

type Progress = {
  order: string
  swap: string
  kind: string
  files: number
  totalFiles: number
  bytes: number
  totalBytes: number
  bytesPerSecond: number
}

/** Whether the live stream is open; while it is not, pages say so and ask again by themselves. */
export function useLive(refresh: string | undefined): boolean {
  const queries = useQueryClient()
  const [open, setOpen] = useState(true)
  useEffect(() => {
    if (!refresh || typeof EventSource === 'undefined') return
    const stream = new EventSource(`/api/refreshes/${encodeURIComponent(refresh)}/events`)
    let due: ReturnType<typeof setTimeout> | undefined
    // Many entries at once are one look at the service, not many.
    const look = () => {
      due ??= setTimeout(() => {
        due = undefined
        queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'me' })
      }, 250)
    }
    const move = (swap: SwapListed, p: Progress): SwapListed =>
      swap.id === p.swap && swap.moving ? { ...swap, moving: { ...swap.moving, ...p, order: p.order, kind: p.kind } } : swap
    stream.onopen = () => {
      setOpen((was) => {
        if (!was) look()
        return true
      })
    }
    stream.onerror = () => setOpen(false)
    stream.addEventListener('entry', look)
    stream.addEventListener('progress', (event) => {
      const p = JSON.parse((event as MessageEvent<string>).data) as Progress
      queries.setQueriesData<Day>(
        { queryKey: ['today'] },
        (day) => day && { ...day, moving: day.moving.map((s) => move(s, p)), visits: day.visits.map((s) => move(s, p)) },
      )
      queries.setQueryData<SwapSeen>(['swaps', 'one', p.swap], (seen) => seen && { ...seen, swap: move(seen.swap, p) })
    })
    return () => {
      clearTimeout(due)
      stream.close()
    }
  }, [refresh, queries])
  return open
}
