import { Button, NativeSelect } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { dayOf, dayText } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { worldQuery } from '../plan/queries'
import { useLeads } from '../session/queries'
import { CureButton } from './CureButton'
import { MorningDialog } from './MorningDialog'
import { type Ready, type ReadyAsked, readyQuery, type VisitReady } from './queries'

const long: Intl.DateTimeFormatOptions = { weekday: 'long', day: 'numeric', month: 'long' }

/** Who is not ready for a day that comes, why, and what can still be done about it. */
export function ReadyPage(asked: ReadyAsked) {
  const refresh = useRefresh()
  const ready = useQuery(readyQuery(refresh.key, asked))
  if (ready.isPending) return <Coming rows={9} />
  if (ready.isError) return <Failed error={ready.error} retry={() => ready.refetch()} />
  const page = ready.data
  const of = (state: string) => page.visits.filter((v) => v.state === state)
  const [nearly, begun] = [of('nearly'), of('begun')]
  return (
    <>
      <Head page={page} />
      <Choice page={page} asked={asked} />
      {page.total === 0 && (
        <Empty>
          Nothing is booked {page.wave ? 'in this wave' : 'on this day'}. <To to="/plan">Look at the plan</To>.
        </Empty>
      )}
      <Lacking title="Cannot as it is" sign="stopped" visits={of('cannot')} wave={page.wave !== null} />
      <Lacking title="Can still be, soonest first" sign="wants" visits={of('can-still')} wave={page.wave !== null} />
      {nearly.length > 0 && <Nearly visits={nearly} wave={page.wave !== null} />}
      <AllThere
        title="Ready"
        visits={of('ready')}
        why="Told, answered or not asked, a hand heard of, something staged, the computer here, the technician there."
      />
      {begun.length > 0 && <AllThere title="Begun" visits={begun} why="What is wrong with one of these stands under Today." />}
      {page.visits.length < page.total && (
        <p className="soft">
          Of {page.total} the first {page.visits.length} are looked at. Choose a site or a day to see the others.
        </p>
      )}
    </>
  )
}

function Head({ page }: { page: Ready }) {
  const clock = useClock()
  const leads = useLeads()
  const [morning, setMorning] = useState(false)
  const count = (state: string) => page.visits.filter((v) => v.state === state).length
  const [ready, nearly, still] = [count('ready'), count('nearly'), count('can-still')]
  const [cannot, begun] = [count('cannot'), count('begun')]
  const sites = new Set(page.visits.map((v) => v.site)).size
  const tomorrow = dayOf(Date.parse(page.now) + 86_400_000, page.zone)
  const title = page.wave
    ? `Ready for wave ${page.wave}?`
    : page.day === dayOf(page.now, page.zone)
      ? 'Ready for today?'
      : page.day === tomorrow
        ? 'Ready for tomorrow?'
        : `Ready for ${dayText(page.day ?? '', long)}?`
  return (
    <header className="head">
      <div>
        <h1>{title}</h1>
        <p className="soft">
          {page.day && `${dayText(page.day, long)} · `}
          {page.total} {page.total === 1 ? 'visit' : 'visits'}
          {page.total > 0 && ` at ${sites} ${sites === 1 ? 'site' : 'sites'}`}
          {page.total > 0 && (
            <>
              {' · '}
              <strong>
                {ready} {ready === 1 ? 'is' : 'are'} ready{nearly > 0 && `, ${nearly} but for answers and steps`}, {still} can still be,{' '}
                {cannot} cannot
              </strong>
            </>
          )}
          {begun > 0 && `, ${begun} begun`}
          {page.toldUntil && ` · people are told until ${clock.full(page.toldUntil)}`}
        </p>
      </div>
      {leads && (
        <div className="actions">
          <Button variant="default" onClick={() => setMorning(true)}>
            Mail in the morning
          </Button>
        </div>
      )}
      {morning && <MorningDialog close={() => setMorning(false)} />}
    </header>
  )
}

function Choice({ page, asked }: { page: Ready; asked: ReadyAsked }) {
  const refresh = useRefresh()
  const world = useQuery(worldQuery(refresh.key))
  const navigate = useNavigate()
  const go = (search: ReadyAsked) => navigate({ to: '/ready', search: { site: asked.site, ...search } })
  const chip = (key: string, words: string, count: number, isHere: boolean, search: ReadyAsked) => (
    <button key={key} type="button" className="chip" aria-pressed={isHere} onClick={() => go(search)}>
      {words} <span className="soft">{count}</span>
    </button>
  )
  return (
    <div className="chips" role="group" aria-label="Which day or wave">
      {page.days.map((d) => chip(d.day, dayText(d.day), d.visits, page.day === d.day, { day: d.day }))}
      {(world.data?.waves ?? []).map((w) => chip(w.key, w.name, w.swaps, page.wave === w.key, { wave: w.key }))}
      {(world.data?.sites.length ?? 0) > 1 && (
        <NativeSelect
          aria-label="Site"
          size="xs"
          data={[{ value: '', label: 'All sites' }, ...(world.data?.sites ?? []).map((s) => ({ value: s.key, label: s.name }))]}
          value={asked.site ?? ''}
          onChange={(e) => navigate({ to: '/ready', search: { ...asked, site: e.currentTarget.value || undefined } })}
        />
      )}
    </div>
  )
}

function Lacking({ title, sign, visits, wave }: { title: string; sign: string; visits: VisitReady[]; wave: boolean }) {
  if (visits.length === 0) return null
  return (
    <section className="card" aria-label={title}>
      <div className="card-head">
        <h2>{title}</h2>
        <span className="soft">{visits.length}</span>
      </div>
      <ul className="rows">
        {visits.map((visit) => (
          <VisitRow key={visit.swap} visit={visit} sign={sign} wave={wave} />
        ))}
      </ul>
    </section>
  )
}

const ofCoordinators = ['another-time', 'depot']

function VisitRow({ visit, sign, wave }: { visit: VisitReady; sign: string; wave: boolean }) {
  const clock = useClock()
  const leads = useLeads()
  return (
    <li className="ready-row">
      <Sign sign={sign} />
      <div>
        <To to={`/swaps/${visit.swap}`}>{visit.name}</To>
        <p className="soft">{[visit.site, visit.room].filter(Boolean).join(', ')}</p>
      </div>
      <span className="figures">{visit.start ? (wave ? clock.full(visit.start) : clock.time(visit.start)) : ''}</span>
      <ul className="lacks">
        {visit.lacks
          .filter((lack) => !lack.isMinor)
          .map((lack, i) => (
            <li key={lack.kind}>
              <span>{lack.words}</span>
              <span className="actions">
                {lack.cures
                  .filter((cure) => leads || !ofCoordinators.includes(cure.action))
                  .map((cure, j) => (
                    <CureButton key={cure.action} visit={visit} cure={cure} first={sign === 'stopped' && i === 0 && j === 0} />
                  ))}
              </span>
            </li>
          ))}
        {visit.lacks.some((lack) => lack.isMinor) && <li className="soft">Open, too: {openOf(visit)}.</li>}
      </ul>
    </li>
  )
}

const counted: Record<string, [one: string, many: string]> = { 'no-answer': ['answer', 'answers'], 'steps-open': ['step', 'steps'] }

/** What of a visit stands in nobody's way yet: 2 answers, 7 steps. */
const openOf = (visit: VisitReady) =>
  visit.lacks
    .filter((lack) => lack.isMinor)
    .map(({ kind, count, words }) => (counted[kind] ? `${count} ${counted[kind][count === 1 ? 0 : 1]}` : words))
    .join(', ')

/** Many of one kind are one card, with a line for each. */
function Nearly({ visits, wave }: { visits: VisitReady[]; wave: boolean }) {
  const clock = useClock()
  return (
    <section className="card" aria-label="Ready but for answers and steps">
      <div className="card-head">
        <h2>
          Ready but for answers and steps{' '}
          <span className="soft why">People answer late, and steps are done when somebody is there: this stands in nobody's way yet.</span>
        </h2>
        <span className="soft">{visits.length}</span>
      </div>
      <ul className="rows">
        {visits.map((visit) => (
          <li key={visit.swap} className="nearly-row" title={visit.lacks.map((lack) => lack.words).join(' ')}>
            <Sign sign="ahead" />
            <To to={`/swaps/${visit.swap}`}>{visit.name}</To>
            <span className="figures">{visit.start ? (wave ? clock.full(visit.start) : clock.time(visit.start)) : ''}</span>
            <span className="soft">{[visit.site, visit.room].filter(Boolean).join(', ')}</span>
            <span>{openOf(visit)}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function AllThere({ title, visits, why }: { title: string; visits: VisitReady[]; why: string }) {
  const clock = useClock()
  if (visits.length === 0) return null
  return (
    <section className="card" aria-label={title}>
      <div className="card-head">
        <h2>{title}</h2>
        <span className="soft">{visits.length}</span>
      </div>
      <p className="all-there">
        <Sign sign={title === 'Ready' ? 'done' : 'moving'} />{' '}
        {visits.map((v, i) => (
          <span key={v.swap}>
            {i > 0 && ' · '}
            <To to={`/swaps/${v.swap}`}>{v.name}</To> {v.start && clock.time(v.start)}
          </span>
        ))}
      </p>
      <p className="soft">{why}</p>
    </section>
  )
}
