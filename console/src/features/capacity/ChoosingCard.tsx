import { Button, TextInput } from '@mantine/core'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, take } from '../../api/client'
import { Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { useClock } from '../../shared/zone'
import { number } from './thing'

const rulesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['choosing', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/choosing', { params: { path: { refresh } }, signal })),
  })

/** How people choose their times on their own pages, and who waits for another one. */
export function ChoosingCard({ refresh, leads }: { refresh: string; leads: boolean }) {
  const queries = useQueryClient()
  const clock = useClock()
  const rules = useQuery(rulesQuery(refresh))
  const waiting = useQuery({
    queryKey: ['choosing', refresh, 'waiting'],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/waiting', { params: { path: { refresh } }, signal })),
  })
  const [typed, setTyped] = useState<{ until?: string; most?: string }>({})
  const put = useMutation({
    mutationFn: (body: { untilHours: number; mostPerSlot: number | null }) =>
      take(api.PUT('/api/refreshes/{refresh}/choosing', { params: { path: { refresh } }, body })),
    onSuccess: (seen) => {
      queries.setQueryData(rulesQuery(refresh).queryKey, seen)
      setTyped({})
    },
  })
  if (!rules.data) return null
  const until = typed.until ?? String(rules.data.untilHours)
  const most = typed.most ?? String(rules.data.mostPerSlot ?? '')
  const when = (at: string) => `${clock.day(at)} ${clock.time(at)}`
  return (
    <section className="card" aria-label="Choosing times">
      <div className="card-head">
        <h2>
          Choosing times <span className="soft why">What people may do about their time, on their own page.</span>
        </h2>
      </div>
      {leads ? (
        <form
          className="fields"
          onSubmit={(event) => {
            event.preventDefault()
            put.mutate({ untilHours: number(until) ?? 0, mostPerSlot: number(most) })
          }}
        >
          <TextInput
            label="Choosing ends"
            description="So many hours before the appointment"
            inputMode="numeric"
            value={until}
            onChange={(e) => setTyped({ ...typed, until: e.currentTarget.value.replace(/\D/g, '') })}
          />
          <TextInput
            label="May begin at one time"
            description="At a site, by choice. Empty: as the plan has room."
            inputMode="numeric"
            value={most}
            onChange={(e) => setTyped({ ...typed, most: e.currentTarget.value.replace(/\D/g, '') })}
          />
          <Button type="submit" variant="default" loading={put.isPending} disabled={Object.keys(typed).length === 0}>
            Save
          </Button>
        </form>
      ) : (
        <p>
          Choosing ends {rules.data.untilHours} hours before the appointment;{' '}
          {rules.data.mostPerSlot
            ? `${rules.data.mostPerSlot} may begin at one time at a site.`
            : 'as many may begin at one time as the plan has room for.'}
        </p>
      )}
      {put.isError && <Failed error={put.error} />}
      {waiting.data && waiting.data.length > 0 && (
        <div className="table-scroll" tabIndex={0} role="group" aria-label="Who waits for another time">
          <table className="account words">
            <thead>
              <tr>
                <th scope="col">Waits, longest first</th>
                <th scope="col">Site</th>
                <th scope="col">Has</th>
                <th scope="col">Would take</th>
                <th scope="col">Since</th>
              </tr>
            </thead>
            <tbody>
              {waiting.data.map((w) => (
                <tr key={w.swap}>
                  <th scope="row">
                    <To to={`/swaps/${w.swap}`}>{w.name}</To>
                  </th>
                  <td>{w.site}</td>
                  <td>{w.start ? when(w.start) : 'no time'}</td>
                  <td>
                    {when(w.from)} to {when(w.until)}
                  </td>
                  <td>{when(w.at)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
