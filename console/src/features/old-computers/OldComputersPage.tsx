import { Button, Select, TextInput } from '@mantine/core'
import { useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useDeferredValue, useState } from 'react'
import type { Schemas } from '../../api/client'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery } from '../session/queries'
import { type OldComputer, oldComputersQuery, palletsQuery, useDeparture } from './queries'
import { ScanCard } from './ScanCard'
import { nextWords, stateSigns, stateWords } from './states'

/** Where every old computer is, whether it may be wiped, and what lies on which pallet. */
export function OldComputersPage() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const [find, setFind] = useState('')
  const [pallet, setPallet] = useState('')
  const list = useInfiniteQuery(oldComputersQuery(refresh.key, useDeferredValue(find), pallet))
  const works = me.data?.role === 'coordinator' || me.data?.role === 'technician'
  const all = list.data?.pages.flatMap((p) => p.items) ?? []
  const ready = all.filter((o) => o.state === 'may-be-wiped').length
  const missing = all.filter((o) => o.state === 'missing').length
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>Old computers</h1>
            <Word of="hold" />
          </div>
          <p className="soft">
            {list.data ? `${list.data.pages[0]?.total ?? 0} computers · held ${refresh.oldHoldDays} days after the last sign-off` : ' '}
            {ready > 0 && (
              <>
                {' · '}
                <strong>{ready} may be wiped now</strong>
              </>
            )}
            {missing > 0 && (
              <>
                {' · '}
                <strong>{missing} missing</strong>
              </>
            )}
          </p>
        </div>
        <TextInput
          type="search"
          aria-label="Find a tag, person, place or pallet"
          placeholder="Find a tag, person, place, pallet"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
        />
      </header>
      <div className="columns old-columns">
        <section className="card" aria-label="Old computers">
          {list.isPending ? (
            <Coming rows={8} />
          ) : list.isError ? (
            <Failed error={list.error} retry={() => list.refetch()} />
          ) : all.length === 0 ? (
            <Empty>{find || pallet ? 'None is found.' : 'No swap of this refresh has an old computer.'}</Empty>
          ) : (
            <ul className="rows">
              {all.map((o) => (
                <Row key={`${o.tag} ${o.swap}`} o={o} />
              ))}
            </ul>
          )}
          {list.hasNextPage && (
            <Button variant="default" fullWidth loading={list.isFetchingNextPage} onClick={() => list.fetchNextPage()}>
              More
            </Button>
          )}
        </section>
        <div>
          {works && <ScanCard />}
          <Pallets chosen={pallet} choose={setPallet} leads={me.data?.role === 'coordinator'} />
        </div>
      </div>
    </>
  )
}

function Row({ o }: { o: OldComputer }) {
  const clock = useClock()
  const words = nextWords(o, (date) => clock.day(`${date}T12:00:00Z`))
  return (
    <li className="old-row">
      <Sign sign={stateSigns[o.state] ?? 'ahead'} />
      <span className="mono">{o.tag}</span>
      <span>
        <Link to="/swaps/$swap" params={{ swap: o.swap }}>
          {o.name}
        </Link>{' '}
        <span className="soft">{o.site}</span>
      </span>
      <span>
        {o.words}
        {o.since ? <span className="soft"> {clock.short(o.since)}</span> : null}
      </span>
      <span className="soft">
        <strong>{stateWords[o.state] ?? o.state}</strong>
        {words ? ` · ${words}` : ''}
      </span>
    </li>
  )
}

function Pallets({ chosen, choose, leads }: { chosen: string; choose: (pallet: string) => void; leads: boolean }) {
  const refresh = useRefresh()
  const pallets = useQuery(palletsQuery(refresh.key))
  const [sends, setSends] = useState<Schemas['PalletSeen'] | null>(null)
  return (
    <section className="card" aria-labelledby="pallets">
      <div className="card-head">
        <h2 id="pallets">Pallets</h2>
        {chosen && (
          <button type="button" className="quiet" onClick={() => choose('')}>
            Show all computers
          </button>
        )}
      </div>
      {pallets.data?.length ? (
        <ul className="rows">
          {pallets.data.map((p) => (
            <li key={p.name} className="pallet-row">
              <button
                type="button"
                className="quiet strong"
                aria-pressed={chosen === p.name}
                onClick={() => choose(chosen === p.name ? '' : p.name)}
              >
                {p.name}
              </button>
              <span className="soft">{p.gone === p.computers ? 'has left' : `${p.wiped} of ${p.computers} wiped`}</span>
              <span className="actions">
                <a href={`/api/refreshes/${refresh.key}/pallets/${encodeURIComponent(p.name)}/list.csv`}>List</a>
                {leads && p.gone < p.computers && (
                  <Button size="compact-sm" variant="default" onClick={() => setSends(p)}>
                    Send off…
                  </Button>
                )}
              </span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="soft">None yet. Scan a computer onto one, and it is there.</p>
      )}
      {sends && <SendDialog pallet={sends} close={() => setSends(null)} />}
    </section>
  )
}

function SendDialog({ pallet, close }: { pallet: Schemas['PalletSeen']; close: () => void }) {
  const departure = useDeparture(useRefresh().key, pallet.name)
  const [how, setHow] = useState<'returned' | 'donated' | 'disposed'>('returned')
  const [to, setTo] = useState('')
  return (
    <FormDialog
      title={`Pallet ${pallet.name} leaves`}
      close={close}
      change={departure}
      send={() => departure.mutate({ as: how, to }, { onSuccess: close })}
      action="It leaves"
      ready={!!to.trim()}
    >
      <p className="soft">All {pallet.computers} computers leave with it for good. One that is not wiped keeps the pallet here.</p>
      <Select
        label="How?"
        data={[
          { value: 'returned', label: 'Returned' },
          { value: 'donated', label: 'Given away' },
          { value: 'disposed', label: 'Scrapped' },
        ]}
        value={how}
        onChange={(value) => setHow((value ?? 'returned') as typeof how)}
        allowDeselect={false}
      />
      <TextInput label="To whom?" value={to} onChange={(e) => setTo(e.currentTarget.value)} data-autofocus required maxLength={120} />
    </FormDialog>
  )
}
