import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { lazy, Suspense } from 'react'
import type { Schemas } from '../../api/client'
import { ageText, countText } from '../../shared/amounts'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { dayText } from '../../shared/wall'
import { purposes } from '../../shared/words'
import { useRefresh } from '../../shell/refresh'
import { useOversees } from '../session/queries'
import { forecastQuery, yardQuery } from './queries'

type Yard = Schemas['YardSeen']

const ProgressPlot = lazy(() => import('./ProgressPlot'))
const stations = ['told', 'surveyed', 'booked', 'staged', 'swapped', 'restored', 'accepted', 'handedIn'] as const
const names: Record<string, string> = { handedIn: 'handed in' }

/** All swaps by site and station, what is stuck and why, and how far the refresh is. */
export function YardPage() {
  const refresh = useRefresh()
  const yard = useQuery(yardQuery(refresh.key))
  const oversees = useOversees()
  const forecast = useQuery({ ...forecastQuery(refresh.key), enabled: oversees })
  if (yard.isPending) return <Coming rows={10} />
  if (yard.isError) return <Failed error={yard.error} retry={() => yard.refetch()} />
  const seen = yard.data
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>The yard</h1>
            <Word of="yard" />
            <span className="soft purpose">{purposes.yard}</span>
          </div>
          <p className="soft">
            <strong>
              {seen.done} of {seen.swaps} accepted
            </strong>
            {seen.late ? ` · ${seen.late} late` : ''}
            {seen.withoutAppointment ? ` · ${seen.withoutAppointment} without an appointment` : ''}
            {seen.lastDay
              ? ` · the last appointment is on ${dayText(seen.lastDay, { weekday: 'short', day: 'numeric', month: 'short' })}`
              : ''}
          </p>
        </div>
        <p className="actions">
          <a href={`/api/refreshes/${refresh.key}/progress.pdf`} target="_blank" rel="noreferrer">
            Report (PDF)
          </a>
          <a href={`/api/refreshes/${refresh.key}/progress.csv`}>Table (CSV)</a>
          {oversees && <Link to="/plan/outlook">Forecast of the end</Link>}
        </p>
      </header>
      <section className="card" aria-labelledby="where">
        <div className="card-head">
          <h2 id="where">Where every swap is</h2>
          <span className="soft">
            by what comes next · <span className="sign-moving">●</span> moving · <span className="sign-wants">▲</span> stuck
          </span>
        </div>
        <Where yard={seen} />
      </section>
      <div className="columns">
        <div>
          <section className="card" aria-labelledby="progress">
            <div className="card-head">
              <h2 id="progress">Done against plan</h2>
            </div>
            <Suspense fallback={<Coming rows={4} />}>
              <ProgressPlot yard={seen} outlook={forecast.data} />
            </Suspense>
          </section>
          <Parts heading="By site" parts={seen.bySite} />
          {seen.byWave.length > 0 && <Parts heading="By wave" parts={seen.byWave} />}
        </div>
        <div>
          <Stuck yard={seen} />
          <Ages ages={seen.ages} />
          <Loads loads={oversees ? seen.technicians : seen.technicians.filter((t) => t.ahead > 0 || t.followUps > 0)} oversees={oversees} />
        </div>
      </div>
    </>
  )
}

function Where({ yard }: { yard: Yard }) {
  if (yard.sites.length === 0) return <Empty>There are no swaps yet. Take a roster, and they show here.</Empty>
  const used = stations.filter((station) => yard.sites.some((site) => site.cells.some((c) => c.station === station)))
  return (
    <div className="table-scroll">
      <table className="account yard">
        <thead>
          <tr>
            <th scope="col">Next</th>
            {used.map((station) => (
              <th key={station} scope="col">
                {names[station] ?? station}
              </th>
            ))}
            <th scope="col">over</th>
          </tr>
        </thead>
        <tbody>
          {yard.sites.map((site) => (
            <tr key={site.site}>
              <th scope="row">
                {site.site} <span className="soft">{site.swaps}</span>
              </th>
              {used.map((station) => (
                <td key={station}>
                  <Cell site={site.site} cell={site.cells.find((c) => c.station === station)} />
                </td>
              ))}
              <td className="mono">{countText(site.done)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Cell({ site, cell }: { site: string; cell: Schemas['YardCell'] | undefined }) {
  if (!cell) return null
  return (
    <>
      {cell.stuck > 0 && (
        <span className="sign-wants mono" title={`${cell.stuck} stuck`}>
          ▲{cell.stuck}{' '}
        </span>
      )}
      {cell.moving > 0 && (
        <span className="sign-moving mono" title={`${cell.moving} moving`}>
          ●{cell.moving}{' '}
        </span>
      )}
      <Link to="/swaps" search={{ site, next: cell.station }} className="mono strong">
        {cell.swaps}
      </Link>
    </>
  )
}

function Stuck({ yard }: { yard: Yard }) {
  return (
    <section className="card" aria-labelledby="stuck">
      <div className="card-head">
        <h2 id="stuck">Stuck, and why</h2>
        <span className="soft">{yard.stuck.length || ''}</span>
      </div>
      {yard.stuck.length === 0 ? (
        <Empty>
          <Sign sign="done" quiet /> Nothing is stuck.
        </Empty>
      ) : (
        <ul className="rows stuck" tabIndex={0} aria-labelledby="stuck">
          {yard.stuck.map((need) => (
            <li key={need.swap} className="need-row">
              <Sign sign={need.sign} />
              <div>
                <Link to="/swaps/$swap" params={{ swap: need.swap }} className="strong">
                  {need.name}
                </Link>{' '}
                <span className="soft age">{ageText((Date.parse(yard.now) - Date.parse(need.since)) / 1000)}</span>
                <p className="soft">{need.words}</p>
              </div>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

function Parts({ heading, parts }: { heading: string; parts: Schemas['ProgressPart'][] }) {
  const id = heading.replace(' ', '-').toLowerCase()
  return (
    <section className="card" aria-labelledby={id}>
      <div className="card-head">
        <h2 id={id}>{heading}</h2>
      </div>
      <ul className="rows">
        {parts.map((part) => (
          <li key={part.name} className="part-row">
            <span>{part.name}</span>
            <progress
              value={part.swaps ? part.done / part.swaps : 0}
              aria-label={`${part.done} of ${part.swaps} accepted at ${part.name}`}
            />
            <span className="mono soft">
              {part.done} of {part.swaps}
            </span>
            <span className={part.late ? 'sign-wants' : 'soft'}>{part.late ? `▲ ${part.late} late` : ''}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Ages({ ages }: { ages: Schemas['AgeGroup'][] }) {
  return (
    <section className="card" aria-labelledby="ages">
      <div className="card-head">
        <h2 id="ages">Open for how long</h2>
      </div>
      <table className="account">
        <thead>
          <tr>
            <th scope="col">Age</th>
            <th scope="col">
              <Link to="/snags" search={{}}>
                Snags
              </Link>
            </th>
            <th scope="col">
              <Link to="/follow-ups">Follow-ups</Link>
            </th>
          </tr>
        </thead>
        <tbody>
          {ages.map((group, i) => (
            <tr key={group.upToDays ?? 'more'}>
              <th scope="row">
                {group.upToDays
                  ? `under ${group.upToDays} ${group.upToDays === 1 ? 'day' : 'days'}`
                  : `${ages[i - 1]?.upToDays ?? 0} days and more`}
              </th>
              <td className="mono">{countText(group.snags)}</td>
              <td className="mono">{countText(group.followUps)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const hours = (minutes: number) => (minutes ? `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}` : '')

function Loads({ loads, oversees }: { loads: Schemas['TechnicianLoad'][]; oversees: boolean }) {
  return (
    <section className="card" aria-labelledby="loads">
      <div className="card-head">
        <h2 id="loads">{oversees ? 'Technicians' : 'Technicians at your sites'}</h2>
        <span className="soft">hands-on</span>
      </div>
      <div className="table-scroll loads">
        <table className="account">
          <thead>
            <tr>
              <th scope="col">Name</th>
              <th scope="col">Today</th>
              <th scope="col">Ahead</th>
              <th scope="col">Follow-ups</th>
            </tr>
          </thead>
          <tbody>
            {loads.map((load) => (
              <tr key={load.key}>
                <th scope="row">
                  <Link to="/round" search={{ technician: load.key }}>
                    {load.name}
                  </Link>
                </th>
                <td className="mono">{hours(load.todayMinutes)}</td>
                <td className="mono">{countText(load.ahead)}</td>
                <td className="mono">{countText(load.followUps)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
