import { Button, Checkbox, Modal, NativeSelect, Textarea, TextInput } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { infiniteQueryOptions, keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { type FormEvent, useState } from 'react'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import type { SnagsSearch } from '../../router'
import { bytesText } from '../../shared/amounts'
import { Coming, Empty, Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { Word } from '../../shared/Word'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { tell } from '../plan/queries'
import { meQuery } from '../session/queries'
import { sitesQuery } from '../swaps/queries'

type Listed = Schemas['SnagListed']

const kinds: [Listed['snag']['kind'], string][] = [
  ['unreadable', 'cannot be read'],
  ['changedWhileRead', 'keeps changing'],
  ['goneWhileRead', 'vanished'],
  ['device', 'device'],
  ['pipe', 'pipe'],
  ['socket', 'socket'],
  ['depotRefused', 'refused by the depot'],
  ['noRoom', 'no room in the depot'],
  ['damagedInDepot', 'damaged in the depot'],
  ['notRestored', 'not restored'],
  ['attributeLost', 'attribute lost'],
  ['sourceDoubted', 'another source'],
  ['unfinished', 'broke off'],
  ['otherLists', 'parcel not as left'],
  ['untoldTrip', 'trip not reported'],
]

const snagsQuery = (refresh: string, search: SnagsSearch) =>
  infiniteQueryOptions({
    queryKey: ['snags', refresh, search],
    initialPageParam: '',
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
    queryFn: ({ signal, pageParam }) =>
      take(
        api.GET('/api/refreshes/{refresh}/snags', {
          params: { path: { refresh }, query: { ...search, cursor: pageParam || undefined, limit: 100 } },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })

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
  const toggle = (id: string) =>
    setChosen((was) => {
      const now = new Set(was)
      if (!now.delete(id)) now.add(id)
      return now
    })
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
                  {snags.map((s) => (
                    <Row
                      key={s.snag.id}
                      s={s}
                      chosen={chosen.has(s.snag.id)}
                      toggle={works && open ? () => toggle(s.snag.id) : undefined}
                    />
                  ))}
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

function Row({ s, chosen, toggle }: { s: Listed; chosen: boolean; toggle?: () => void }) {
  const clock = useClock()
  return (
    <tr>
      {toggle && (
        <td>
          <Checkbox size="xs" aria-label={`Choose ${visible(s.snag.path)} of ${s.name}`} checked={chosen} onChange={toggle} />
        </td>
      )}
      <th scope="row">
        <Link to="/swaps/$swap" params={{ swap: s.snag.swap }}>
          {s.name}
        </Link>
        <small className="soft">
          {s.site}
          {s.room ? `, ${s.room}` : ''}
        </small>
      </th>
      <td>
        <span className="mono path">{visible(s.snag.path)}</span>
        <small className="soft">
          {[s.snag.bytes ? bytesText(s.snag.bytes) : '', s.snag.side === 'new' ? 'at the restore' : 'at a trip', clock.full(s.snag.at)]
            .filter(Boolean)
            .join(' · ')}
        </small>
      </td>
      <td>{s.snag.reason}</td>
      <td>
        {s.snag.end === 'open' ? (
          <>
            {s.counsel}
            {s.ways.includes('source') && (
              <small>
                <Link to="/swaps/$swap" params={{ swap: s.snag.swap }}>
                  Say what it is
                </Link>
              </small>
            )}
            {s.isBusy && <small className="soft">An order is under way there.</small>}
          </>
        ) : (
          <>
            {s.snag.end === 'waived'
              ? `${s.snag.kind === 'sourceDoubted' ? 'Answered' : 'Waived'} by ${s.snag.endedBy}: ${s.snag.endReason}`
              : `Carried by ${s.snag.endedBy}`}
            {s.snag.endedAt && <small className="soft">{clock.full(s.snag.endedAt)}</small>}
          </>
        )}
      </td>
    </tr>
  )
}

function WaiveMany({ snags, close }: { snags: Listed[]; close: (done: boolean) => void }) {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [reason, setReason] = useState('')
  const people = new Set(snags.map((s) => s.snag.swap)).size
  const waive = useMutation({
    mutationFn: () =>
      take(
        api.POST('/api/refreshes/{refresh}/waivers', {
          params: { path: { refresh: refresh.key } },
          headers: repeatKey(),
          body: { snags: snags.map((s) => s.snag.id), reason },
        }),
      ),
    onSuccess: (made) => {
      if (made.skipped.length)
        notifications.show({
          color: 'red',
          title: `${made.skipped.length} were not waived`,
          message: made.skipped.slice(0, 5).join(' '),
          autoClose: 12_000,
        })
      close(true)
    },
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    waive.mutate()
  }
  return (
    <Modal
      opened
      onClose={() => close(false)}
      title={`Waive ${snags.length === 1 ? 'this file' : `${snags.length} files`}`}
      centered
      closeOnClickOutside={false}
    >
      <form onSubmit={submit} className="stack">
        <p>
          {snags.length === 1 ? 'It' : 'They'} will not come along, for {people === 1 ? 'one person' : `${people} people`}. Your name and
          the reason stay with each, in the report that the person gets.
        </p>
        <ul className="changes">
          {snags.slice(0, 6).map((s) => (
            <li key={s.snag.id}>
              <span className="mono path">{visible(s.snag.path)}</span> <span className="soft">of {s.name}</span>
            </li>
          ))}
          {snags.length > 6 && <li className="soft">and {snags.length - 6} more</li>}
        </ul>
        <Textarea
          label={snags.length === 1 ? 'Why is it not needed?' : 'Why are they not needed?'}
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          required
          maxLength={500}
          autosize
          minRows={2}
          data-autofocus
        />
        {waive.isError && <Failed error={waive.error} />}
        <div className="actions">
          <Button variant="default" onClick={() => close(false)}>
            Keep {snags.length === 1 ? 'it' : 'them'} open
          </Button>
          <Button type="submit" loading={waive.isPending} disabled={!reason.trim()}>
            Waive
          </Button>
        </div>
      </form>
    </Modal>
  )
}
