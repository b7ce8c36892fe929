import { useQuery } from '@tanstack/react-query'
import type { Schemas } from '../../api/client'
import { bytesText } from '../../shared/amounts'
import { dayText, instantOf } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { meQuery } from '../session/queries'
import type { Appointment, Plan } from './queries'

const slot = 15 * 60_000

/** How many benches of a site are taken, quarter hour by quarter hour. */
export function takenPerSlot(visits: Appointment[], from: number, slots: number): number[] {
  const taken = new Array<number>(slots).fill(0)
  for (const v of visits)
    for (let i = Math.max(0, Math.floor((Date.parse(v.start) - from) / slot)); i < slots && from + i * slot < Date.parse(v.end); i++)
      taken[i] = (taken[i] ?? 0) + 1
  return taken
}

type Props = { plan: Plan; day: string; visits: Appointment[]; sites: Schemas['SiteSeen'][]; hours: { from: number; until: number } }

/** Benches over the day; depot room and link over the days. */
export function Strips({ plan, day, visits, sites, hours }: Props) {
  const clock = useClock()
  const me = useQuery(meQuery)
  // Of other sites a technician is not told what is taken, and so not what all of them bring to a depot.
  const some = me.data?.role === 'technician'
  const seen = some ? sites.filter((s) => me.data?.sites.includes(s.key)) : sites
  const from = instantOf(day, hours.from * 60, clock.zone)
  const slots = (hours.until - hours.from) * 4
  return (
    <div className="strips">
      <div>
        <h3>Benches</h3>
        {seen.map((site) => {
          const taken = takenPerSlot(
            visits.filter((v) => v.site === site.key),
            from,
            slots,
          )
          const most = Math.max(...taken, 0)
          return (
            <div key={site.key} className="strip">
              <span>{site.name}</span>
              <Bars values={taken} bound={site.benches} label={`${site.name}: at most ${most} of ${site.benches} benches taken`} />
              <span className="figures">
                {most} of {site.benches}
              </span>
            </div>
          )
        })}
      </div>
      {!some && (
        <div>
          <h3>Depots, day by day</h3>
          {plan.load.depots.map((depot) => {
            const index = plan.load.days.findIndex((d) => d.day === day)
            const lies = depot.lies[index] ?? 0
            const brought = depot.brought[index] ?? 0
            return (
              <div key={depot.key}>
                <div className="strip">
                  <span>{depot.name}: room</span>
                  <Bars
                    values={depot.lies}
                    bound={depot.capacityBytes}
                    mark={index}
                    label={`${depot.name}: ${bytesText(lies)} lie there on ${dayText(day)}`}
                  />
                  <span className="figures">
                    {bytesText(lies)}
                    {depot.capacityBytes ? ` of ${bytesText(depot.capacityBytes)}` : ', room not known'}
                  </span>
                </div>
                <div className="strip">
                  <span>{depot.name}: link</span>
                  <Bars
                    values={depot.brought}
                    bound={depot.dailyBytes}
                    mark={index}
                    label={`${depot.name}: the link brings ${bytesText(brought)} for ${dayText(day)}`}
                  />
                  <span className="figures">
                    {bytesText(brought)}
                    {depot.dailyBytes ? ` of ${bytesText(depot.dailyBytes)}` : ''}
                  </span>
                </div>
              </div>
            )
          })}
        </div>
      )}
    </div>
  )
}

/** Bars against a bound; without one, against the highest of them. */
function Bars({ values, bound, mark, label }: { values: number[]; bound?: number | null; mark?: number; label: string }) {
  const top = Math.max(bound ?? 0, ...values, 1)
  return (
    <svg className="bars" viewBox={`0 0 ${values.length * 4} 20`} preserveAspectRatio="none" role="img" aria-label={label}>
      <title>{label}</title>
      {values.map((value, i) => (
        <rect
          key={`bar-${i.toString()}`}
          x={i * 4}
          width={values.length > 30 ? 4 : 3}
          y={20 - (value / top) * 20}
          height={(value / top) * 20}
          className={bound != null && value >= bound ? 'full' : i === mark ? 'marked' : ''}
        />
      ))}
      {bound != null && (
        <line x1="0" x2={values.length * 4} y1={20 - (bound / top) * 20 + 0.5} y2={20 - (bound / top) * 20 + 0.5} className="bound" />
      )}
    </svg>
  )
}
