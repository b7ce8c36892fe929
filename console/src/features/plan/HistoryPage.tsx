import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { api, take } from '../../api/client'
import { Coming, Empty, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { planKeys } from './queries'

/** All plans, and any two compared. */
export function HistoryPage() {
  const refresh = useRefresh()
  const clock = useClock()
  const [pair, setPair] = useState<number[]>([])
  const plans = useQuery({
    queryKey: [...planKeys.all(refresh.key), 'history'],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/plans', { params: { path: { refresh: refresh.key } }, signal })),
  })
  if (plans.isPending) return <Coming />
  if (plans.isError) return <Failed error={plans.error} retry={() => plans.refetch()} />
  const [from, to] = [...pair].sort((a, b) => a - b)
  return (
    <>
      <header className="head">
        <div>
          <p className="crumbs soft">
            <Link to="/plan">Plan</Link>
          </p>
          <h1>History of plans</h1>
          <p className="soft">Tick two to compare them.</p>
        </div>
      </header>
      <section className="card table-scroll" aria-label="Plans" tabIndex={0}>
        {plans.data.length === 0 ? (
          <Empty>No plan was made yet.</Empty>
        ) : (
          <table className="account">
            <thead>
              <tr>
                <th>Plan</th>
                <th>State</th>
                <th>Made</th>
                <th>Published</th>
                <th>Booked</th>
                <th>Left out</th>
                <th>Cost</th>
              </tr>
            </thead>
            <tbody>
              {plans.data.map((p) => (
                <tr key={p.number}>
                  <th>
                    <label>
                      <input
                        type="checkbox"
                        checked={pair.includes(p.number)}
                        onChange={() =>
                          setPair(pair.includes(p.number) ? pair.filter((n) => n !== p.number) : [...pair.slice(-1), p.number])
                        }
                      />{' '}
                      {p.number}
                    </label>
                  </th>
                  <td>{p.state}</td>
                  <td>
                    {clock.full(p.madeAt)} {p.madeBy}
                  </td>
                  <td>{p.publishedAt ? `${clock.full(p.publishedAt)} ${p.publishedBy}` : ''}</td>
                  <td>{p.placed}</td>
                  <td>{p.leftOut || ''}</td>
                  <td>{p.cost}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
      {from !== undefined && to !== undefined && <Compared refresh={refresh.key} from={from} to={to} />}
    </>
  )
}

function Compared({ refresh, from, to }: { refresh: string; from: number; to: number }) {
  const compared = useQuery({
    queryKey: [...planKeys.all(refresh), 'compared', from, to],
    queryFn: ({ signal }) =>
      take(api.GET('/api/refreshes/{refresh}/plans/compared', { params: { path: { refresh }, query: { from, to } }, signal })),
  })
  if (compared.isPending) return <Coming rows={4} />
  if (compared.isError) return <Failed error={compared.error} retry={() => compared.refetch()} />
  const c = compared.data
  return (
    <section className="card" aria-label="Comparison">
      <div className="card-head">
        <h2>
          From plan {from} to plan {to}
        </h2>
        <span className="soft">
          {c.changes.length} changes · left out {c.before.leftOut} → {c.after.leftOut} · cost {c.before.cost} → {c.after.cost}
        </span>
      </div>
      {c.changes.length === 0 ? (
        <Empty>Both say the same.</Empty>
      ) : (
        <ul className="changes">
          {c.changes.slice(0, 500).map((x) => (
            <li key={`${x.swap}${x.isBench}`}>{x.words}</li>
          ))}
        </ul>
      )}
    </section>
  )
}
