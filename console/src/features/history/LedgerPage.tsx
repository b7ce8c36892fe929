import { Button, SegmentedControl, TextInput } from '@mantine/core'
import { useInfiniteQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import type { LedgerSearch } from '../../router'
import { Coming, Empty, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { type Entry, entriesQuery, useProof } from './queries'

/** Who did what, and when; and the proof that nothing of it was changed afterwards. */
export function LedgerPage({ search }: { search: LedgerSearch }) {
  const refresh = useRefresh()
  const navigate = useNavigate()
  const of = search.of === 'service' ? null : refresh.key
  const list = useInfiniteQuery(entriesQuery(of, search))
  const all = list.data?.pages.flatMap((p) => p.items) ?? []
  const total = list.data?.pages[0]?.total ?? 0
  return (
    <>
      <header className="head">
        <div>
          <h1>History</h1>
          <p className="soft">Who did what, and when. Nothing here can be changed or taken out; a proof shows that nothing was.</p>
        </div>
        <SegmentedControl
          aria-label="Of what"
          data={[
            { value: '', label: refresh.name },
            { value: 'service', label: 'The service: sign-ins, accounts' },
          ]}
          value={search.of ?? ''}
          onChange={(value) => navigate({ to: '/history', search: value ? { of: 'service' } : {} })}
        />
      </header>
      <Proof key={of} refresh={of} />
      <Filter search={search} />
      <section className="card" aria-label="What happened">
        {list.isPending ? (
          <Coming rows={10} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : all.length === 0 ? (
          <Empty>Nothing of that kind happened.</Empty>
        ) : (
          <>
            <ol className="rows" reversed>
              {all.map((entry) => (
                <EntryRow key={entry.number} entry={entry} />
              ))}
            </ol>
            <p className="soft more-rows">
              {all.length} of {total}
              {list.hasNextPage && (
                <Button size="compact-sm" variant="default" loading={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
                  Show older ones
                </Button>
              )}
            </p>
          </>
        )}
      </section>
    </>
  )
}

function EntryRow({ entry }: { entry: Entry }) {
  const clock = useClock()
  return (
    <li className="ledger-row">
      <span className="figures soft">{entry.number}</span>
      <span className="soft">{clock.full(entry.at)}</span>
      <span>{entry.by}</span>
      <span>
        {entry.words || <span className="soft">What was said here was erased when its person asked for that.</span>}
        {entry.swap && (
          <>
            {' '}
            <To to={`/swaps/${entry.swap}`} className="soft">
              {entry.name ?? entry.swap}
            </To>
          </>
        )}
      </span>
    </li>
  )
}

function Filter({ search }: { search: LedgerSearch }) {
  const navigate = useNavigate()
  const [by, setBy] = useState(search.by ?? '')
  const [swap, setSwap] = useState(search.swap ?? '')
  const go = (more: LedgerSearch) => navigate({ to: '/history', search: { ...search, ...more }, replace: true })
  // What is typed is looked for once somebody pauses.
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is typed asks anew
  useEffect(() => {
    if (by.trim() === (search.by ?? '') && swap.trim() === (search.swap ?? '')) return
    const wait = setTimeout(() => go({ by: by.trim() || undefined, swap: swap.trim() || undefined }), 400)
    return () => clearTimeout(wait)
  }, [by, swap])
  return (
    <div className="filters ledger-filters" role="search" aria-label="Which part of the history">
      <TextInput type="date" label="From" value={search.since ?? ''} onChange={(e) => go({ since: e.currentTarget.value || undefined })} />
      <TextInput type="date" label="Until" value={search.until ?? ''} onChange={(e) => go({ until: e.currentTarget.value || undefined })} />
      <TextInput label="By whom" placeholder="Part of a name" value={by} onChange={(e) => setBy(e.currentTarget.value)} />
      {!search.of && (
        <TextInput label="About which swap" placeholder="autumn-0012" value={swap} onChange={(e) => setSwap(e.currentTarget.value)} />
      )}
    </div>
  )
}

function Proof({ refresh }: { refresh: string | null }) {
  const proof = useProof(refresh)
  const found = proof.data
  return (
    <section className="card" aria-label="Proof">
      <div className="card-head">
        <h2>
          {!found
            ? 'Is it whole?'
            : found.faults.length === 0
              ? '✓ It is whole'
              : `■ ${found.faults.length === 1 ? '1 fault' : `${found.faults.length} faults`}`}
        </h2>
        <Button size="compact-sm" variant="default" loading={proof.isPending} onClick={() => proof.mutate()}>
          Prove it
        </Button>
      </div>
      {proof.isError && <Failed error={proof.error} />}
      <div role="status">
        {found && found.faults.length === 0 && (
          <p>
            All {found.number} entries follow on one another, their words are their own, and the newest is signed by this service. Keep its
            head elsewhere, and nobody can change anything before it unseen:{' '}
            <span className="mono whole-text">{`${found.number}:${found.sha256}`}</span>
          </p>
        )}
        {found && found.faults.length > 0 && (
          <ul className="rows" aria-label="What is wrong">
            {found.faults.map((fault) => (
              <li key={`${fault.number} ${fault.what}`} className="plain sign-stopped">
                {fault.number > 0 && `Entry ${fault.number}: `}
                {fault.what}
              </li>
            ))}
          </ul>
        )}
      </div>
    </section>
  )
}
