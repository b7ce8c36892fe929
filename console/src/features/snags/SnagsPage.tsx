import { Button, Checkbox, NativeSelect, TextInput } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { api, repeatKey, take } from '../../api/client'
import type { SnagsSearch } from '../../router'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { useRefresh } from '../../shell/refresh'
import { tell } from '../plan/queries'
import { meQuery } from '../session/queries'
import { sitesQuery } from '../swaps/queries'
import { kinds, snagsQuery } from './queries'
import { SnagCauses } from './SnagCauses'
import { WaiveMany } from './WaiveMany'

/** Snags of all swaps: what happened, what may be done, and both for many at once. */
export function SnagsPage({ search }: { search: SnagsSearch }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const list = useInfiniteQuery(snagsQuery(refresh.key, search))
  const sites = useQuery(sitesQuery(refresh.key))
  const me = useQuery(meQuery)
  const queries = useQueryClient()
  const [chosen, setChosen] = useState<Set<string>>(new Set())
  const [waiving, setWaiving] = useState(false)
  const [text, setText] = useState(search.q ?? '')
  const set = (change: Partial<SnagsSearch>) => {
    setChosen(new Set())
    navigate({ to: '/snags', search: (was: SnagsSearch) => ({ ...was, ...change }), replace: true })
  }
  const snags = list.data?.pages.flatMap((page) => page.items) ?? []
  const total = list.data?.pages[0]?.total ?? 0
  const works = me.data?.role === 'coordinator' || me.data?.role === 'technician'
  const open = (search.end ?? 'open') === 'open'
  const picked = snags.filter((s) => chosen.has(s.snag.id))
  // What a source is, is said one by one, at the swap.
  const waivable = picked.filter((s) => s.ways.includes('waive'))
  const retried = [
    ...new Map(
      picked.flatMap((s) =>
        s.ways
          .filter((w) => w !== 'waive' && w !== 'source')
          .map((w) => [`${w} ${s.snag.swap}`, { way: w, swap: s.snag.swap, busy: s.isBusy }]),
      ),
    ).values(),
  ]
  const retry = useMutation({
    mutationFn: async () => {
      const said: string[] = []
      for (const { way, swap } of retried.filter((r) => !r.busy)) {
        try {
          await take(api.POST('/api/swaps/{swap}/orders', { params: { path: { swap } }, headers: repeatKey(), body: { kind: way } }))
        } catch (refused) {
          said.push(refused instanceof Error ? refused.message : `${swap}: not ordered.`)
        }
      }
      return said
    },
    onSuccess: (said) => {
      setChosen(new Set())
      notifications.show(
        said.length
          ? { color: 'red', title: 'Not all was ordered', message: said.slice(0, 5).join(' '), autoClose: 12_000 }
          : { message: `${retried.filter((r) => !r.busy).length} ordered. A snag leaves this list when its file has come.` },
      )
    },
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: ['snags'] }),
  })
  const choose = (ids: string[], isChosen: boolean) =>
    setChosen((was) => (isChosen ? new Set([...was, ...ids]) : new Set([...was].filter((id) => !ids.includes(id)))))
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>Snags</h1>
            <Word of="snag" />
          </div>
          <p className="soft">
            {list.data
              ? open
                ? total === 0
                  ? 'Nothing is open'
                  : `${total.toLocaleString('en-GB')} open: retry or waive each`
                : `${total.toLocaleString('en-GB')} ${search.end}`
              : ' '}
          </p>
        </div>
        {works && open && total > 0 && (
          <div className="actions">
            <Button variant="default" disabled={retried.every((r) => r.busy)} loading={retry.isPending} onClick={() => retry.mutate()}>
              Retry{retried.length ? ` at ${retried.length} ${retried.length === 1 ? 'swap' : 'swaps'}` : ''}
            </Button>
            <Button disabled={waivable.length === 0} onClick={() => setWaiving(true)}>
              Waive{waivable.length ? ` ${waivable.length}` : ''}…
            </Button>
          </div>
        )}
      </header>
      <div className="filters">
        <TextInput
          aria-label="Find a person or path"
          placeholder="Find a person or path"
          type="search"
          value={text}
          onChange={(e) => {
            setText(e.currentTarget.value)
            set({ q: e.currentTarget.value || undefined })
          }}
        />
        <NativeSelect
          aria-label="Site"
          value={search.site ?? ''}
          onChange={(e) => set({ site: e.currentTarget.value || undefined })}
          data={[{ value: '', label: 'All sites' }, ...(sites.data ?? []).map((s) => ({ value: s.key, label: s.name }))]}
        />
        <NativeSelect
          aria-label="Kind"
          value={search.kind ?? ''}
          onChange={(e) => set({ kind: e.currentTarget.value || undefined })}
          data={[{ value: '', label: 'Any kind' }, ...kinds.map(([value, label]) => ({ value: value as string, label }))]}
        />
        <NativeSelect
          aria-label="How they stand"
          value={search.end ?? 'open'}
          onChange={(e) => set({ end: e.currentTarget.value === 'open' ? undefined : e.currentTarget.value })}
          data={[
            { value: 'open', label: 'Open' },
            { value: 'waived', label: 'Waived' },
            { value: 'retried', label: 'Retried, carried since' },
          ]}
        />
      </div>
      <section className="card" aria-label="Snags">
        {list.isPending ? (
          <Coming rows={8} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : snags.length === 0 ? (
          <Empty>
            {search.q || search.site || search.kind
              ? 'Nothing fits. Take a filter off.'
              : open
                ? 'No file is open: all that was carried so far is accounted for.'
                : `None was ${search.end}.`}
          </Empty>
        ) : (
          <>
            <div className="table-scroll" tabIndex={0} role="region" aria-label="All snags">
              <table className="account words snags-table">
                <thead>
                  <tr>
                    {works && open && (
                      <th scope="col">
                        <Checkbox
                          size="xs"
                          aria-label="Choose all that are shown"
                          checked={picked.length === snags.length}
                          indeterminate={picked.length > 0 && picked.length < snags.length}
                          onChange={(e) => setChosen(e.currentTarget.checked ? new Set(snags.map((s) => s.snag.id)) : new Set())}
                        />
                      </th>
                    )}
                    <th scope="col">Person</th>
                    <th scope="col">File</th>
                    <th scope="col">What happened</th>
                    <th scope="col">{open ? 'What may be done' : 'How it ended'}</th>
                  </tr>
                </thead>
                <tbody>
                  <SnagCauses snags={snags} each={search.q !== undefined} chosen={chosen} choose={works && open ? choose : undefined} />
                </tbody>
              </table>
            </div>
            {list.hasNextPage && (
              <div className="actions">
                <Button size="compact-sm" variant="default" loading={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
                  Show more
                </Button>
              </div>
            )}
          </>
        )}
      </section>
      {waiving && (
        <WaiveMany
          snags={waivable}
          close={(done) => {
            setWaiving(false)
            if (done) setChosen(new Set())
          }}
        />
      )}
    </>
  )
}
