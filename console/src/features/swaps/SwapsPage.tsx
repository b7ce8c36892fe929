import { Button, NativeSelect, TextInput } from '@mantine/core'
import { useDebouncedCallback } from '@mantine/hooks'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { useVirtualizer } from '@tanstack/react-virtual'
import { type KeyboardEvent, useEffect, useRef, useState } from 'react'
import type { SwapListed } from '../../api/client'
import type { SwapsSearch } from '../../router'
import { SmallLine } from '../../shared/Line'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { meQuery } from '../session/queries'
import { BulkEdit } from './BulkEdit'
import { BulkOrder } from './BulkOrder'
import { sitesQuery, swapsQuery } from './queries'

const stations = [
  ['told', 'Told'],
  ['surveyed', 'Surveyed'],
  ['booked', 'Booked'],
  ['staged', 'Staged'],
  ['swapped', 'Swapped'],
  ['restored', 'Restored'],
  ['accepted', 'Accepted'],
  ['handedIn', 'Handed in'],
] as const
const rowHeight = 38

export function SwapsPage({ search }: { search: SwapsSearch }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const sites = useQuery(sitesQuery(refresh.key))
  const list = useInfiniteQuery(swapsQuery(refresh.key, search))
  const me = useQuery(meQuery)
  const [ordering, setOrdering] = useState(false)
  const [editing, setEditing] = useState(false)
  const [text, setText] = useState(search.q ?? '')
  useEffect(() => setText(search.q ?? ''), [search.q])
  const set = (change: Partial<SwapsSearch>) =>
    navigate({ to: '/swaps', search: (was: SwapsSearch) => ({ ...was, ...change }), replace: true })
  const find = useDebouncedCallback((q: string) => set({ q: q || undefined }), 250)
  const swaps = list.data?.pages.flatMap((page) => page.items) ?? []
  const total = list.data?.pages[0]?.total ?? 0
  const box = useRef<HTMLInputElement>(null)
  useEffect(() => {
    const onKey = (event: globalThis.KeyboardEvent) => {
      if (event.key !== '/' || (event.target instanceof HTMLElement && event.target.closest('input, textarea, select'))) return
      event.preventDefault()
      box.current?.focus()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <>
      <header className="head">
        <div>
          <h1>Swaps</h1>
          <p className="soft">
            {list.data ? `${total.toLocaleString('en-GB')} ${search.q || search.site || search.next ? 'found' : 'in this refresh'}` : ' '}
          </p>
        </div>
        {me.data?.role === 'coordinator' && total > 0 && (
          <div className="actions">
            <Button variant="default" onClick={() => setOrdering(true)} title="Survey, carry, verify or restore at all that are found">
              Order…
            </Button>
            <Button variant="default" onClick={() => setEditing(true)} title="Wave, weight, skills, times and pins of all that are found">
              For planning…
            </Button>
          </div>
        )}
      </header>
      {ordering && <BulkOrder refresh={refresh.key} search={search} total={total} close={() => setOrdering(false)} />}
      {editing && <BulkEdit refresh={refresh.key} search={search} total={total} close={() => setEditing(false)} />}
      <div className="filters">
        <TextInput
          ref={box}
          aria-label="Find a person, tag or room"
          placeholder="Find a person, tag, room"
          type="search"
          value={text}
          onChange={(e) => {
            setText(e.currentTarget.value)
            find(e.currentTarget.value)
          }}
          rightSection={<kbd aria-hidden="true">/</kbd>}
        />
        <NativeSelect
          aria-label="Site"
          value={search.site ?? ''}
          onChange={(e) => set({ site: e.currentTarget.value || undefined })}
          data={[{ value: '', label: 'All sites' }, ...(sites.data ?? []).map((s) => ({ value: s.key, label: s.name }))]}
        />
        <NativeSelect
          aria-label="Next station"
          value={search.next ?? ''}
          onChange={(e) => set({ next: e.currentTarget.value || undefined })}
          data={[{ value: '', label: 'At any station' }, ...stations.map(([value, label]) => ({ value, label: `Next: ${label}` }))]}
        />
        <NativeSelect
          aria-label="Order"
          value={search.sort ?? 'name'}
          onChange={(e) => set({ sort: e.currentTarget.value === 'name' ? undefined : e.currentTarget.value })}
          data={[
            { value: 'name', label: 'By name' },
            { value: 'time', label: 'By appointment' },
            { value: 'station', label: 'By station' },
          ]}
        />
      </div>
      <section className="card swaps" aria-label="Swaps">
        {list.isPending ? (
          <Coming rows={12} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : swaps.length === 0 ? (
          <Empty>
            {search.q || search.site || search.next ? (
              'Nothing fits. Take a filter off, or look for another part of the name.'
            ) : (
              <>
                No swaps yet. <Link to="/roster">Take a roster</Link>.
              </>
            )}
          </Empty>
        ) : (
          <Rows swaps={swaps} more={list.hasNextPage && !list.isFetchingNextPage ? () => list.fetchNextPage() : undefined} />
        )}
      </section>
    </>
  )
}

function Rows({ swaps, more }: { swaps: SwapListed[]; more?: () => void }) {
  const box = useRef<HTMLDivElement>(null)
  const clock = useClock()
  const navigate = useNavigate()
  const [at, setAt] = useState(0)
  const rows = useVirtualizer({
    count: swaps.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    initialRect: { width: 1000, height: 600 },
  })
  const items = rows.getVirtualItems()
  const last = items[items.length - 1]?.index ?? 0
  useEffect(() => {
    if (more && last >= swaps.length - 20) more()
  }, [last, swaps.length, more])
  const onKey = (event: KeyboardEvent) => {
    const step = { ArrowDown: 1, ArrowUp: -1, PageDown: 12, PageUp: -12 }[event.key]
    const chosen = swaps[at]
    if (event.key === 'Enter' && chosen) navigate({ to: '/swaps/$swap', params: { swap: chosen.id } })
    if (!step) return
    event.preventDefault()
    const next = Math.max(0, Math.min(swaps.length - 1, at + step))
    setAt(next)
    rows.scrollToIndex(next)
  }
  return (
    <div
      ref={box}
      className="scroll"
      tabIndex={0}
      onKeyDown={onKey}
      role="grid"
      aria-label="Swaps; arrows choose, Enter opens"
      aria-rowcount={swaps.length}
      aria-activedescendant={swaps[at] ? `row-${swaps[at].id}` : undefined}
    >
      <div role="row" className="swap-row swap-heads">
        {['Person', 'Line', 'How it stands', 'Where', 'Computers', 'Appointment'].map((head) => (
          <span role="columnheader" key={head}>
            {head}
          </span>
        ))}
      </div>
      <div role="presentation" style={{ height: rows.getTotalSize(), position: 'relative' }}>
        {items.map((item) => {
          const swap = swaps[item.index]
          if (!swap) return null
          return (
            <div
              key={swap.id}
              id={`row-${swap.id}`}
              role="row"
              aria-rowindex={item.index + 1}
              aria-selected={item.index === at}
              className={item.index === at ? 'swap-row chosen' : 'swap-row'}
              style={{ transform: `translateY(${item.start}px)`, position: 'absolute', insetInline: 0 }}
              onClick={() => navigate({ to: '/swaps/$swap', params: { swap: swap.id } })}
            >
              <span role="gridcell">
                <Link to="/swaps/$swap" params={{ swap: swap.id }} tabIndex={-1} onClick={(e) => e.stopPropagation()}>
                  {swap.name}
                </Link>
              </span>
              <span role="gridcell">
                <SmallLine swap={swap} />
              </span>
              <span role="gridcell" className="words">
                <Sign sign={swap.sign.sign} /> {swap.sign.words}
              </span>
              <span role="gridcell" className="soft">
                {swap.site}
                {swap.room ? `, ${swap.room}` : ''}
              </span>
              <span role="gridcell" className="figures">
                {swap.oldTag ?? '–'} → {swap.newTag ?? '–'}
              </span>
              <span role="gridcell" className="figures">
                {swap.appointment ? `${clock.day(swap.appointment.start)} ${clock.time(swap.appointment.start)}` : ''}
              </span>
            </div>
          )
        })}
      </div>
    </div>
  )
}
