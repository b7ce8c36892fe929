import { Button, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { meQuery } from '../session/queries'
import { type Feed, feedsQuery, useEndFeed, useMakeFeed } from './queries'

/** Addresses at which calendar programs read appointments: made, listed, withdrawn one by one. */
export function FeedsCard() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const list = useQuery(feedsQuery(refresh.key))
  const make = useMakeFeed(refresh.key)
  const own = me.data?.role === 'technician' ? me.data.name : null
  return (
    <section className="card" aria-label="Calendars">
      <div className="card-head">
        <h2>Calendars</h2>
        <Button size="compact-sm" variant="default" loading={make.isPending} onClick={() => make.mutate({ site: null, technician: own })}>
          {own ? 'An address for my appointments' : 'An address for all appointments'}
        </Button>
      </div>
      <p className="soft">
        A calendar program reads the published appointments of {refresh.name} at such an address. Whoever has it can read them, until it is
        withdrawn.
      </p>
      {make.isError && <Failed error={make.error} />}
      {make.data && (
        <TextInput label="The new address, shown this once" value={make.data.address} readOnly onFocus={(e) => e.currentTarget.select()} />
      )}
      {list.isPending ? (
        <Coming rows={2} />
      ) : list.isError ? (
        <Failed error={list.error} retry={() => list.refetch()} />
      ) : (
        list.data.length > 0 && (
          <ul className="rows">
            {list.data.map((f) => (
              <Row key={f.id} feed={f} isOwn={f.madeBy === me.data?.name} />
            ))}
          </ul>
        )
      )}
    </section>
  )
}

function Row({ feed: f, isOwn }: { feed: Feed; isOwn: boolean }) {
  const clock = useClock()
  const end = useEndFeed(useRefresh().key)
  const of = `${f.technician ? `Appointments of ${f.technician}` : 'All appointments'}${f.site ? ` at ${f.site}` : ''}`
  return (
    <li className="place-row">
      <span>
        {of}
        {!isOwn && <span className="soft"> · made by {f.madeBy}</span>}
      </span>
      <span className="soft">
        since {clock.full(f.madeAt)} · {f.readAt ? `last read ${clock.full(f.readAt)}` : 'never read'}
        {end.isError && <span className="problem"> {end.error.message}</span>}
      </span>
      <Button size="compact-sm" variant="default" loading={end.isPending} onClick={() => end.mutate(f.id)} aria-label={`Withdraw: ${of}`}>
        Withdraw
      </Button>
    </li>
  )
}
