import { Button, Menu } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { LargeLine } from '../../shared/Line'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { DetourDialog } from '../detours/DetourDialog'
import { detours } from '../detours/words'
import { FollowUpsCard } from '../follow-ups/FollowUps'
import { OldComputerCard } from '../old-computers/OldComputerCard'
import { OutcomeCard } from '../parcel/OutcomeCard'
import { ParcelCard } from '../parcel/ParcelCard'
import { HandoverDialog } from '../round/HandoverDialog'
import { meQuery } from '../session/queries'
import { AccountTable } from './AccountTable'
import { CargoCard } from './CargoCard'
import { ChecklistCard } from './ChecklistCard'
import { History } from './History'
import { PersonCard } from './PersonCard'
import { swapQuery, useOrder, usePause, useWithdrawal } from './queries'
import { Snags } from './Snags'

export function SwapPage({ id }: { id: string }) {
  const swap = useQuery(swapQuery(id))
  const me = useQuery(meQuery)
  if (swap.isPending) return <Coming rows={10} />
  if (swap.isError) return <Failed error={swap.error} retry={() => swap.refetch()} />
  const seen = swap.data
  const works = me.data?.role === 'coordinator' || (me.data?.role === 'technician' && me.data.sites.includes(seen.swap.site))
  return (
    <>
      <Head seen={seen} works={works} leads={me.data?.role === 'coordinator'} />
      <section className="card" aria-label="Line of this swap">
        <LargeLine swap={seen.swap} />
      </section>
      <div className="columns swap-columns">
        <div>
          <section className="card" aria-labelledby="account">
            <AccountTable seen={seen} />
            <Snags seen={seen} works={works} />
          </section>
          <OutcomeCard seen={seen} works={works} leads={me.data?.role === 'coordinator'} />
          <CargoCard seen={seen} works={works} />
          <ParcelCard seen={seen} works={works} leads={me.data?.role === 'coordinator'} />
          <FollowUpsCard seen={seen} works={works} />
          <OldComputerCard seen={seen} works={works} />
          {me.data?.role === 'coordinator' && <PersonCard seen={seen} />}
          <History seen={seen} />
        </div>
        <ChecklistCard seen={seen} works={works} leads={me.data?.role === 'coordinator'} />
      </div>
    </>
  )
}

function Head({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const clock = useClock()
  const [passes, setPasses] = useState(false)
  const [turns, setTurns] = useState(false)
  const { swap } = seen
  const off = swapIsOff(seen)
  const a = swap.appointment
  return (
    <header className="head">
      <div>
        <p className="soft crumbs">
          <Link to="/swaps" search={{}}>
            Swaps
          </Link>{' '}
          /{' '}
          <Link to="/swaps" search={{ site: swap.site }}>
            {swap.site}
          </Link>{' '}
          / {swap.id}
        </p>
        <h1>{swap.name}</h1>
        <p className="soft">
          {swap.room ? `${swap.room} · ` : ''}
          <span className="mono">
            {swap.oldTag ?? '–'} → {swap.newTag ?? (seen.receiver ? `for ${seen.receiver}` : '–')}
          </span>
          {a
            ? ` · ${a.with}, ${clock.day(a.start)} ${clock.time(a.start)} to ${clock.time(a.end)}`
            : off
              ? ` · ${seen.swap.sign.words}`
              : ' · no appointment yet'}
          {seen.parcel ? ` · parcel on ${seen.parcel.depot}` : ''}
        </p>
        {seen.handover && (
          <p className="soft">
            Handed over by {seen.handover.from} to {seen.handover.to}, {clock.full(seen.handover.at)}: <strong>{seen.handover.note}</strong>
          </p>
        )}
        {seen.detours?.slice(0, 3).map((detour) => (
          <p key={detour.at} className="soft detour">
            <span aria-hidden="true">↷</span>
            <span className="unseen">{detours[detour.kind][0]}: </span> {detour.words}, {clock.full(detour.at)}
          </p>
        ))}
      </div>
      <div className="actions">
        <Button variant="default" component={Link} to={`/swaps/${swap.id}/report`}>
          Report
        </Button>
        {works && a && (
          <Button variant="default" onClick={() => setPasses(true)}>
            Hand over…
          </Button>
        )}
        {works && !!seen.mayDetour?.length && (
          <Button variant="default" onClick={() => setTurns(true)}>
            {off ? 'Resume…' : 'Goes otherwise…'}
          </Button>
        )}
        {works && !off && <NextOrder seen={seen} />}
      </div>
      {turns && <DetourDialog seen={seen} leads={leads} close={() => setTurns(false)} />}
      {passes && <HandoverDialog seen={seen} close={() => setPasses(false)} />}
    </header>
  )
}

const swapIsOff = (seen: SwapSeen) => seen.swap.sign.sign === 'off'

const orders = [
  ['survey', 'Survey the old computer'],
  ['first-trip', 'First trip'],
  ['first-trip-by-need', 'First trip, by need as far as there is room'],
  ['top-up-trip', 'Top-up trip'],
  ['closing-trip', 'Closing trip'],
  ['verify', 'Verify the parcel'],
  ['verify-by-service', 'Verify beside the depot, by the service'],
  ['restore', 'Restore to the new computer'],
  ['survey-new', 'Look at the new computer'],
  ['last-look', 'Last look at the old computer, before it is emptied'],
] as const

/** The one order that comes next, and the others behind a menu. */
function NextOrder({ seen }: { seen: SwapSeen }) {
  const order = useOrder(seen.swap.id)
  const withdraw = useWithdrawal(seen.swap.id)
  const pause = usePause(seen.swap.id)
  const has = (station: string) => seen.swap.line.some((stop) => stop.station === station && stop.at)
  const swapKind = seen.swap.kind
  const stages = seen.swap.line.some((stop) => stop.station === 'staged')
  const restores = seen.swap.line.some((stop) => stop.station === 'restored')
  const hasParcel = !!seen.parcel?.trips || !!seen.parcel?.begun
  const lands = restores || (swapKind === 'leave' && !!seen.handingOver?.acceptedAt && !!seen.handingOver.tag)
  if (!stages && !hasParcel) return null
  const next = !stages
    ? restores && !has('restored')
      ? 'restore'
      : null
    : !has('surveyed')
      ? 'survey'
      : !seen.parcel?.trips
        ? 'first-trip'
        : !has('staged')
          ? 'top-up-trip'
          : lands && !has('restored') && !seen.total.onNew
            ? 'restore'
            : null
  const words = orders.find(([kind]) => kind === next)?.[1]
  return (
    <div className="actions">
      <Menu position="bottom-end">
        <Menu.Target>
          <Button variant="default">Order…</Button>
        </Menu.Target>
        <Menu.Dropdown>
          {seen.swap.moving && (
            <Menu.Item onClick={() => pause.mutate(!seen.swap.moving?.pausedAt)}>
              {seen.swap.moving.pausedAt ? 'Let it go on' : 'Let it rest; it goes on where it stopped'}
            </Menu.Item>
          )}
          {seen.swap.isBusy && <Menu.Item onClick={() => withdraw.mutate()}>Withdraw what waits or is under way</Menu.Item>}
          {orders
            .filter(([kind]) => stages || kind.startsWith('verify') || kind === 'restore')
            .map(([kind, label]) => (
              <Menu.Item key={kind} disabled={seen.swap.isBusy} onClick={() => order.mutate(kind)}>
                {label}
              </Menu.Item>
            ))}
        </Menu.Dropdown>
      </Menu>
      {next && (
        <Button loading={order.isPending} disabled={seen.swap.isBusy} onClick={() => order.mutate(next)}>
          {words}
        </Button>
      )}
    </div>
  )
}
