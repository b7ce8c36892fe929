import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import type { Day, SwapListed } from '../../api/client'
import { ageText, bytesText } from '../../shared/amounts'
import { SmallLine } from '../../shared/Line'
import { Coming, Empty, Failed } from '../../shared/States'
import { dayOf } from '../../shared/wall'
import { purposes } from '../../shared/words'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { Find } from '../../shell/Shell'
import { DayBoard } from './DayBoard'
import { NeedsYou } from './Needs'
import { todayQuery } from './queries'

const kinds: Record<string, string> = {
  survey: 'survey',
  'first-trip': 'first trip',
  'top-up-trip': 'top-up trip',
  'closing-trip': 'closing trip',
  verify: 'verify',
  look: 'look before a restore',
  restore: 'restore',
  'part-restore': 'restore of a part',
  purge: 'purge',
}

/** @param day Another day than today. */
export function TodayPage({ day: asked }: { day?: string }) {
  const refresh = useRefresh()
  const today = useQuery({ ...todayQuery(refresh.key, asked), placeholderData: keepPreviousData })
  if (today.isPending) return <Coming rows={10} />
  if (today.isError) return <Failed error={today.error} retry={() => today.refetch()} />
  const day = today.data
  return (
    <>
      <Head day={day} />
      {day.visits.length > 0 ? (
        <section className="card" aria-label="Visits of the day">
          <DayBoard day={day} />
        </section>
      ) : (
        <Empty>
          No visits {asked ? 'on this day' : 'today'}.{' '}
          <Link to="/swaps" search={{ sort: 'time' }}>
            See all swaps by time
          </Link>
          , or <Link to="/plan">look at the plan</Link>.
        </Empty>
      )}
      <div className="columns">
        <OnTheMove moving={day.moving} />
        <NeedsYou needs={day.needs} now={day.now} />
      </div>
    </>
  )
}

const dayAfter = (day: string, days: number) => new Date(Date.parse(`${day}T12:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10)

function OtherDays({ day, isToday }: { day: string; isToday: boolean }) {
  return (
    <span className="day-steps">
      <Link to="/" search={{ day: dayAfter(day, -1) }} aria-label="The day before" title="The day before">
        ‹
      </Link>
      <Link to="/" search={{ day: dayAfter(day, 1) }} aria-label="The day after" title="The day after">
        ›
      </Link>
      {!isToday && <Link to="/">today</Link>}
    </span>
  )
}

function Head({ day }: { day: Day }) {
  const clock = useClock()
  const isToday = day.day === dayOf(day.now, day.zone)
  const title = new Intl.DateTimeFormat('en-GB', { weekday: 'long', day: 'numeric', month: 'long', timeZone: 'UTC' }).format(
    new Date(`${day.day}T12:00:00Z`),
  )
  return (
    <header className="head">
      <div>
        <div className="day-title">
          <h1>{title}</h1>
          <OtherDays day={day.day} isToday={isToday} />
          {isToday && <span className="soft purpose">{purposes.today}</span>}
        </div>
        <p className="soft">
          {day.swaps} {day.swaps === 1 ? 'swap' : 'swaps'} at {day.sites} {day.sites === 1 ? 'site' : 'sites'} · {day.done} done,{' '}
          {day.underWay} under way, {day.stopped} stopped
          {day.endsAt ? (
            <>
              {' · '}
              <strong>
                {isToday ? 'the day ends at' : 'it ends at'} {clock.time(day.endsAt)}
                {isToday && ' as things stand'}
              </strong>
            </>
          ) : null}
        </p>
      </div>
      <Find />
    </header>
  )
}

function OnTheMove({ moving }: { moving: SwapListed[] }) {
  const rate = moving.reduce((sum, s) => sum + (s.moving?.bytesPerSecond ?? 0), 0)
  return (
    <section className="card" aria-labelledby="on-the-move">
      <div className="card-head">
        <h2 id="on-the-move">On the move</h2>
        <span className="soft">
          {moving.length ? `${moving.length} ${moving.length === 1 ? 'parcel' : 'parcels'} · ${bytesText(rate)}/s to depots` : ''}
        </span>
      </div>
      {moving.length === 0 ? (
        <Empty>Nothing is on its way. Order a first trip on a swap's page; its files then show here as they go.</Empty>
      ) : (
        <ul className="rows">
          {moving.map((swap) => (
            <Moving key={swap.id} swap={swap} />
          ))}
        </ul>
      )}
    </section>
  )
}

function Moving({ swap }: { swap: SwapListed }) {
  const m = swap.moving
  if (!m) return null
  const left = m.totalBytes > m.bytes && m.bytesPerSecond > 0 ? ageText((m.totalBytes - m.bytes) / m.bytesPerSecond) : ''
  return (
    <li className="moving-row">
      <Link to="/swaps/$swap" params={{ swap: swap.id }}>
        {swap.name}
      </Link>
      <span className="soft">{kinds[m.kind] ?? m.kind}</span>
      <SmallLine swap={swap} />
      <span className="figures">
        {m.totalBytes > 0
          ? `${bytesText(m.bytes)} of ${bytesText(m.totalBytes)}`
          : m.totalFiles > 0
            ? `${m.files} of ${m.totalFiles} files`
            : bytesText(m.bytes)}
      </span>
      <span className="figures soft rate">
        {m.pausedAt ? 'rests' : m.waits ? `on ${m.waits}` : m.bytesPerSecond > 0 ? `${bytesText(m.bytesPerSecond)}/s` : ''}
      </span>
      <span className="left">{m.pausedAt ? '' : left}</span>
    </li>
  )
}
