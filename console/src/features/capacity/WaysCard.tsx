import { useQuery } from '@tanstack/react-query'
import { api, take } from '../../api/client'
import { bytesText } from '../../shared/amounts'

const names: Record<string, string> = { disk: 'By a disk', cable: 'By a cable', share: 'Over a share', cloud: 'Over a cloud' }
const hours = (minutes: number) => (minutes < 60 ? `${minutes} min` : `${Math.round(minutes / 60)} h`)

/** The ways to carry all files, compared by the same figures as the plan reckons with. */
export function WaysCard({ refresh }: { refresh: string }) {
  const ways = useQuery({
    queryKey: ['world', refresh, 'ways-to-carry'],
    // A refresh without swaps has nothing to carry.
    retry: false,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/ways-to-carry', { params: { path: { refresh } }, signal })),
  })
  if (!ways.data) return null
  return (
    <section className="card" aria-label="Which way to carry">
      <div className="card-head">
        <h2>
          Which way to carry{' '}
          <span className="soft why">
            {bytesText(ways.data.bytes)} of {ways.data.swaps} swaps, by each way; what is not surveyed counts as a typical home
          </span>
        </h2>
      </div>
      <div className="table-scroll" tabIndex={0} role="group" aria-label="Ways to carry">
        <table className="account words">
          <thead>
            <tr>
              <th>Way</th>
              <th>Before the visits</th>
              <th>In the visits, unattended</th>
              <th>Hands-on</th>
              <th>Room</th>
              <th>What can go wrong</th>
            </tr>
          </thead>
          <tbody>
            {ways.data.ways.map((way) => (
              <tr key={way.way}>
                <th>
                  {names[way.way] ?? way.way}
                  {!way.fits && <span className="sign-stopped"> ■ no room</span>}
                </th>
                <td>{hours(way.aheadMinutes)}</td>
                <td>{hours(way.visitMinutes)}</td>
                <td>{hours(way.handsOnMinutes)}</td>
                <td>{way.roomBytes ? bytesText(way.roomBytes) : ''}</td>
                <td>{way.risk}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
