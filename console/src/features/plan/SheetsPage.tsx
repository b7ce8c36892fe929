import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { Coming, Empty, Failed } from '../../shared/States'
import { dayOf, dayText } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { keyOf } from './PlanBoard'
import { planQuery } from './queries'

/** One sheet of paper per technician for a day. */
export function SheetsPage({ day }: { day?: string }) {
  const refresh = useRefresh()
  const clock = useClock()
  const plan = useQuery(planQuery(refresh.key))
  if (plan.isPending) return <Coming />
  if (plan.isError) return <Failed error={plan.error} retry={() => plan.refetch()} />
  const on = day ?? dayOf(Date.now(), clock.zone)
  const visits = plan.data.appointments.filter((a) => dayOf(a.start, clock.zone) === on)
  const technicians = [...new Map(visits.map((v) => [v.technician, v.technicianName]))]
  return (
    <div className="sheets">
      <header className="head no-print">
        <div>
          <p className="crumbs soft">
            <Link to="/plan" search={{ day: on }}>
              Plan
            </Link>
          </p>
          <h1>Sheets for {dayText(on)}</h1>
        </div>
        <Button onClick={() => window.print()}>Print</Button>
      </header>
      {technicians.length === 0 && <Empty>Nobody has a visit on this day.</Empty>}
      {technicians.map(([key, name]) => (
        <section key={key} className="card sheet">
          <div className="card-head">
            <h2>
              {name}, {dayText(on, { weekday: 'long', day: 'numeric', month: 'long' })}
            </h2>
            <span className="soft">
              {refresh.name}, plan {plan.data.number}
              {plan.data.state === 'draft' ? ' (draft, not booked)' : ''}
            </span>
          </div>
          <div className="table-scroll" tabIndex={0} role="group" aria-label={`Visits of ${name}`}>
            <table className="account words">
              <thead>
                <tr>
                  <th>Hands-on</th>
                  <th>Again at</th>
                  <th>Until</th>
                  <th>Person</th>
                  <th>Where</th>
                  <th>Swap</th>
                  <th>Done</th>
                </tr>
              </thead>
              <tbody>
                {visits
                  .filter((v) => v.technician === key)
                  .map((v) => (
                    <tr key={keyOf(v)}>
                      <th>
                        {clock.time(v.start)}–{clock.time(v.handsOnUntil)}
                      </th>
                      <td>{v.end > v.finish ? clock.time(v.finish) : ''}</td>
                      <td>{clock.time(v.end)}</td>
                      <td>
                        {v.person}
                        {v.isBench ? ' (bench)' : ''}
                      </td>
                      <td>
                        {v.site}
                        {v.room ? `, ${v.room}` : ''}
                      </td>
                      <td>{v.swap}</td>
                      <td>☐</td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </div>
        </section>
      ))}
    </div>
  )
}
