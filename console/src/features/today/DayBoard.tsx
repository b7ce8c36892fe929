import { Link } from '@tanstack/react-router'
import type { Day, SwapListed } from '../../api/client'
import { AwayBlock } from '../../shared/AwayBlock'
import { Sign } from '../../shared/Sign'
import { useClock } from '../../shared/zone'

const minute = 60_000

/** Puts visits of one technician into lanes so that those under way at once stand below each other. */
export function lanesOf(visits: SwapListed[]): SwapListed[][] {
  const lanes: SwapListed[][] = []
  for (const visit of [...visits].sort((a, b) => start(a) - start(b))) {
    const lane = lanes.find((l) => end(l[l.length - 1]) <= start(visit))
    if (lane) lane.push(visit)
    else lanes.push([visit])
  }
  return lanes
}

const start = (v: SwapListed | undefined) => Date.parse(v?.appointment?.start ?? '')
const end = (v: SwapListed | undefined) => Date.parse(v?.appointment?.end ?? '')

/** The day's visits by technician: hands-on tinted, unattended hatched, so that interleaving is seen. */
export function DayBoard({ day }: { day: Day }) {
  const clock = useClock()
  const now = Date.parse(day.now)
  const from = Math.floor(Math.min(...day.visits.map(start)) / (60 * minute)) * 60 * minute
  const until = Math.ceil(Math.max(...day.visits.map(end)) / (60 * minute)) * 60 * minute
  const span = until - from
  const at = (time: number) => `${((time - from) / span) * 100}%`
  const hours = Array.from({ length: Math.round(span / (60 * minute)) + 1 }, (_, i) => from + i * 60 * minute)
  const every = hours.length > 10 ? 2 : 1
  const people = day.technicians.filter((t) => day.visits.some((v) => v.appointment?.technician === t.key))
  return (
    <div className="board">
      <div className="board-hours" aria-hidden="true">
        {hours.map((hour, i) =>
          i % every === 0 && hour < until ? (
            <span key={hour} style={{ left: at(hour) }}>
              {clock.time(new Date(hour).toISOString())}
            </span>
          ) : null,
        )}
      </div>
      {people.map((technician) => {
        const visits = day.visits.filter((v) => v.appointment?.technician === technician.key)
        const sites = [...new Set(visits.map((v) => v.site))]
        const away = day.away.filter((a) => a.technician === technician.key)
        return (
          <div key={technician.key} className="board-row">
            <div className="board-who">
              <strong>{technician.name.split(' ')[0]}</strong>
              <span className="soft">{sites.join(', ')}</span>
              {away.map((a) => (
                <span key={a.from} className="sign-wants">
                  away{' '}
                  {Date.parse(a.until) - Date.parse(a.from) > 22 * 60 * minute ? 'all day' : `${clock.time(a.from)}–${clock.time(a.until)}`}
                </span>
              ))}
            </div>
            <div className="board-lanes">
              {away.map((a) => (
                <AwayBlock key={a.from} away={a} from={from} until={until} />
              ))}
              {lanesOf(visits).map((lane) => (
                <div key={lane[0]?.id} className="lane">
                  {lane.map((visit) => (
                    <Visit key={visit.id} visit={visit} at={at} from={from} span={span} />
                  ))}
                </div>
              ))}
            </div>
          </div>
        )
      })}
      {now > from && now < until && (
        <div className="board-now" style={{ '--at': (now - from) / span } as React.CSSProperties} aria-hidden="true" />
      )}
    </div>
  )
}

function Visit({ visit, at, from, span }: { visit: SwapListed; at: (time: number) => string; from: number; span: number }) {
  const clock = useClock()
  const a = visit.appointment
  if (!a) return null
  const whole = end(visit) - start(visit)
  const share = (x: string, y: string) => `${((Date.parse(y) - Date.parse(x)) / whole) * 100}%`
  const words = `${visit.name}, ${clock.time(a.start)} to ${clock.time(a.end)} with ${a.with}, ${visit.sign.words}. Hands-on until ${clock.time(a.handsOnUntil)}, unattended until ${clock.time(a.finish)}.`
  return (
    <Link
      to="/swaps/$swap"
      params={{ swap: visit.id }}
      className="visit"
      style={{ left: at(start(visit)), width: `${(whole / span) * 100}%` }}
      title={words}
      aria-label={words}
      data-from={from}
    >
      <span className="part hands-on" style={{ width: share(a.start, a.handsOnUntil) }} />
      <span className="part unattended" style={{ width: share(a.handsOnUntil, a.finish) }} />
      <span className="part hands-on" style={{ width: share(a.finish, a.end) }} />
      <span className="visit-name">
        <Sign sign={visit.sign.sign} quiet /> {visit.name}
      </span>
    </Link>
  )
}
