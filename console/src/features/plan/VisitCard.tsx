import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { api, take } from '../../api/client'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import type { Appointment, Move } from './queries'
import { usePin } from './queries'

type Props = { refresh: string; visit: Appointment; canMove: boolean; put: (move: Move) => void; pickUp: () => void; close: () => void }

/** One visit: when, from what its lengths follow, and what can be done with it. */
export function VisitCard({ refresh, visit, canMove, put, pickUp, close }: Props) {
  const clock = useClock()
  const pin = usePin(refresh)
  // A return visit bears its swap's id with '/return' behind it.
  const [swap = '', isReturn] = visit.swap.split('/')
  const estimate = useQuery({
    queryKey: ['estimate', visit.swap],
    enabled: !isReturn,
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/estimate', { params: { path: { swap: visit.swap } }, signal })),
  })
  const e = estimate.data?.estimate
  return (
    <section className="card visit-card" aria-label={`Visit of ${visit.person}`}>
      <div className="card-head">
        <h2>
          <Link to="/swaps/$swap" params={{ swap }}>
            {visit.person}
          </Link>
          {visit.isBench && ', bench preparation'}
        </h2>
        <button type="button" className="more" onClick={close} aria-label="Close">
          ×
        </button>
      </div>
      <p>
        {clock.day(visit.start)}, {clock.time(visit.start)}–{clock.time(visit.end)} with {visit.with}, {visit.site}
        {visit.room ? `, ${visit.room}` : ''}
      </p>
      {visit.booked && (
        <p className="sign-wants">
          <span aria-hidden="true">▲</span> Drafted, not booked yet.{' '}
          {visit.booked === 'not booked' ? 'Nothing is booked.' : `Booked: ${visit.booked}.`}
        </p>
      )}
      {canMove && (
        <div className="actions start">
          <Button size="compact-sm" variant="default" onClick={pickUp} title="M on the visit">
            Move
          </Button>
          {!visit.isBench && !isReturn && (
            <Button
              size="compact-sm"
              variant="default"
              loading={pin.isPending}
              onClick={() =>
                pin.mutate(
                  visit.isPinned
                    ? { swaps: [visit.swap], unpin: true }
                    : { swaps: [visit.swap], pinnedStart: visit.start, pinnedTechnician: visit.technician, unpin: false },
                )
              }
            >
              {visit.isPinned ? 'Unpin' : 'Pin here'}
            </Button>
          )}
          <Button
            size="compact-sm"
            variant="default"
            onClick={() => put({ swap: visit.swap, isBench: visit.isBench, technician: null, start: null })}
          >
            Take out
          </Button>
        </div>
      )}
      <h3>How long it takes</h3>
      {estimate.isPending ? (
        <Coming rows={3} />
      ) : estimate.isError || !e ? (
        <Failed error={estimate.error} retry={() => estimate.refetch()} />
      ) : (
        <>
          <ul className="inputs">
            {e.inputs.map((input) => (
              <li key={input.what}>
                <span>
                  {input.what} <span className="soft">{input.amount}</span>
                </span>
                <span className="figures">{input.minutes} min</span>
              </li>
            ))}
          </ul>
          {e.leadDays > 0 && (
            <>
              <p className="soft">
                From {e.basis === 'inventory' ? 'the inventory' : 'a typical size: it is not surveyed yet'}.
                {` Staging must begin ${e.leadDays} days before.`}
              </p>
              <h3>Which way</h3>
              <ul className="inputs">
                {estimate.data?.ways.map((way) => (
                  <li key={way.way} title={way.risk}>
                    <span>
                      {way.way} <span className="soft">{way.fits ? `${way.handsOnMinutes} min hands-on` : 'has no room for it'}</span>
                    </span>
                    <span className="figures">{way.fits ? `${way.visitMinutes} min` : ''}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </>
      )}
    </section>
  )
}
