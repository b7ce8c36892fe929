import { Button } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, type Schemas, take } from '../../api/client'
import { tell } from '../plan/queries'

type Length = Schemas['RealLength']

const minutes = (value: number | null | undefined) => (value == null ? '' : `${value} min`)

/** Whether what really happened is what is set already. */
export const isTaken = ({ rule, beforeMinutes, unattendedMinutes, afterMinutes }: Length) =>
  rule?.beforeMinutes === beforeMinutes &&
  (unattendedMinutes == null || rule.unattendedMinutes === unattendedMinutes) &&
  (afterMinutes == null || rule.afterMinutes === afterMinutes)

/** How long swaps really took, from the times of their steps: one press, and the next plan reckons with it. */
export function RealLengths({ refresh, leads }: { refresh: string; leads: boolean }) {
  const queries = useQueryClient()
  const lengths = useQuery({
    queryKey: ['world', refresh, 'lengths'],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/lengths', { params: { path: { refresh } }, signal })),
  })
  const set = useMutation({
    mutationFn: (l: Length) =>
      take(
        api.PUT('/api/refreshes/{refresh}/estimates/{scope}/{of}', {
          params: { path: { refresh, scope: l.scope, of: l.of } },
          body: {
            beforeMinutes: l.beforeMinutes,
            unattendedMinutes: l.unattendedMinutes ?? l.rule?.unattendedMinutes ?? null,
            afterMinutes: l.afterMinutes ?? l.rule?.afterMinutes ?? null,
            bench: l.rule?.bench ?? null,
          },
        }),
      ),
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: ['world'] }),
  })
  if (!lengths.data?.length) return null
  return (
    <section className="card" aria-label="How long it really took">
      <div className="card-head">
        <h2>
          How long it really took <span className="soft why">The middle of what the steps' times tell, by kind and by model.</span>
        </h2>
      </div>
      <div className="table-scroll">
        <table className="account words">
          <thead>
            <tr>
              <th scope="col">Of</th>
              <th scope="col">Swaps</th>
              <th scope="col">First part</th>
              <th scope="col">By itself</th>
              <th scope="col">Last part</th>
              {leads && <th scope="col">For the next plan</th>}
            </tr>
          </thead>
          <tbody>
            {lengths.data.map((l) => (
              <tr key={`${l.scope}/${l.of}`}>
                <th scope="row">
                  {l.of} <span className="soft">{l.scope}</span>
                </th>
                <td className="mono">{l.swaps}</td>
                <td className="mono">{minutes(l.beforeMinutes)}</td>
                <td className="mono">{minutes(l.unattendedMinutes)}</td>
                <td className="mono">{minutes(l.afterMinutes)}</td>
                {leads && (
                  <td>
                    {isTaken(l) ? (
                      <span className="soft">
                        <span className="sign-done" aria-hidden="true">
                          ✓
                        </span>{' '}
                        taken over
                      </span>
                    ) : (
                      <Button
                        size="compact-sm"
                        variant="default"
                        loading={set.isPending && set.variables === l}
                        onClick={() => set.mutate(l)}
                        aria-label={`Take over for ${l.scope} ${l.of}`}
                      >
                        Take over
                      </Button>
                    )}
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
