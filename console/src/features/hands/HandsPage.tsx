import { Button, TextInput } from '@mantine/core'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useDeferredValue, useState } from 'react'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery } from '../session/queries'
import { CodeDialog } from './CodeDialog'
import { type Hand, handsQuery, useWithdrawHand } from './queries'

// One that waits for orders asks every half minute, and is noted once a minute.
const silentMinutes = 5

/** Which computers a hand is enrolled at, what it is at, and when it was last heard of. */
export function HandsPage() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const [find, setFind] = useState('')
  const [makes, setMakes] = useState(false)
  const list = useInfiniteQuery(handsQuery(refresh.key, useDeferredValue(find)))
  const works = me.data?.role === 'coordinator' || me.data?.role === 'technician'
  const all = list.data?.pages.flatMap((p) => p.items) ?? []
  const busy = all.filter((h) => h.order).length
  const versions = new Set(all.map((h) => h.version).filter(Boolean)).size
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>Hands</h1>
            <Word of="hand" />
          </div>
          <p className="soft">
            {list.data ? `${list.data.pages[0]?.total ?? 0} enrolled · ${busy} with an order` : ' '}
            {versions > 1 && (
              <>
                {' · '}
                <strong>{versions} versions</strong>
              </>
            )}
          </p>
        </div>
        <TextInput
          type="search"
          aria-label="Find a tag, person or host"
          placeholder="Find a tag, person, host"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
        />
        {works && <Button onClick={() => setMakes(true)}>Code for a computer…</Button>}
      </header>
      <section className="card" aria-label="Hands">
        {list.isPending ? (
          <Coming rows={8} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : all.length === 0 ? (
          <Empty>
            {find
              ? 'None is found.'
              : 'No hand is enrolled yet. Make a code for a computer, then run yardhand enrol there: it asks for orders from then on.'}
          </Empty>
        ) : (
          <ul className="rows">
            {all.map((h) => (
              <Row key={h.tag} h={h} works={works} />
            ))}
          </ul>
        )}
        {list.hasNextPage && (
          <Button variant="default" fullWidth loading={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
            More
          </Button>
        )}
      </section>
      {makes && <CodeDialog close={() => setMakes(false)} />}
    </>
  )
}

function Row({ h, works }: { h: Hand; works: boolean }) {
  const clock = useClock()
  const [withdraws, setWithdraws] = useState(false)
  const heard = h.heardAt ?? h.enrolledAt
  const silent = Date.now() - Date.parse(heard) > silentMinutes * 60_000
  return (
    <li className="hand-row">
      <Sign sign={h.order ? (silent ? 'stopped' : 'moving') : 'ahead'} />
      <span className="mono">{h.tag}</span>
      <span>
        {h.swap ? (
          <Link to="/swaps/$swap" params={{ swap: h.swap }}>
            {h.name}
          </Link>
        ) : null}{' '}
        <span className="soft">{h.site}</span>
      </span>
      <span>
        {h.order ?? <span className="soft">waits for orders</span>}
        <span className="soft"> · {silent ? `silent since ${clock.full(heard)}` : 'heard of just now'}</span>
      </span>
      <span className="soft">
        {h.host} · {h.version ? `version ${h.version}` : 'version not said'} · since {clock.full(h.enrolledAt)}
      </span>
      {works && (
        <Button size="compact-sm" variant="default" onClick={() => setWithdraws(true)} aria-label={`Withdraw the hand at ${h.tag}`}>
          Withdraw…
        </Button>
      )}
      {withdraws && <WithdrawDialog h={h} close={() => setWithdraws(false)} />}
    </li>
  )
}

function WithdrawDialog({ h, close }: { h: Hand; close: () => void }) {
  const withdraw = useWithdrawHand(useRefresh().key, h.tag)
  return (
    <FormDialog
      title={`Withdraw the hand at ${h.tag}`}
      close={close}
      change={withdraw}
      send={() => withdraw.mutate(undefined, { onSuccess: close })}
      action="Withdraw it"
      color="red"
    >
      <p>
        It gets no order any more, what it holds opens nothing from now on, and codes for {h.tag} that nobody used are worth nothing.
        {h.order ? ` It is at an order: ${h.order.toLowerCase()}. That waits for the next hand there, and goes on where it stopped.` : ''}
      </p>
    </FormDialog>
  )
}
