import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { Reason } from '../../shared/Why'
import { useClock } from '../../shared/zone'
import { useOversees } from '../session/queries'
import { type Plan, whyQuery } from './queries'

type Props = { refresh: string; plan: Plan; canMove: boolean; pickUp: (swap: string, person: string) => void }

/** Who is left out and why. */
export function Tray({ refresh, plan, canMove, pickUp }: Props) {
  const [open, setOpen] = useState<string | null>(null)
  const oversees = useOversees()
  if (plan.leftOut.length === 0) return null
  return (
    <section className="card tray" aria-labelledby="tray">
      <div className="card-head">
        <h2 id="tray">
          <span className="sign-wants" aria-hidden="true">
            ▲
          </span>{' '}
          Left out
        </h2>
        <span className="soft">{plan.leftOut.length}</span>
      </div>
      <ul className="rows" tabIndex={0} aria-labelledby="tray">
        {plan.leftOut.map((l) => (
          <li key={l.swap} className="tray-row">
            <div>
              <Link to="/swaps/$swap" params={{ swap: l.swap.split('/')[0] ?? l.swap }}>
                {l.person}
              </Link>
              <p className="soft">
                <Reason text={l.because} />
              </p>
              {open === l.swap && <Ways refresh={refresh} swap={l.swap} version={plan.version} />}
            </div>
            <div className="actions">
              {canMove && (
                <Button size="compact-sm" variant="default" onClick={() => pickUp(l.swap, l.person)} aria-label={`Place ${l.person}`}>
                  Place
                </Button>
              )}
              {oversees && (
                <Button
                  size="compact-sm"
                  variant="default"
                  aria-expanded={open === l.swap}
                  onClick={() => setOpen(open === l.swap ? null : l.swap)}
                  aria-label={`What would let ${l.person} in`}
                >
                  What helps
                </Button>
              )}
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

function Ways({ refresh, swap, version }: { refresh: string; swap: string; version: number }) {
  const why = useQuery(whyQuery(refresh, swap, version))
  const clock = useClock()
  if (why.isPending) return <Coming rows={2} />
  if (why.isError) return <Failed error={why.error} retry={() => why.refetch()} />
  return (
    <ol className="ways">
      {why.data.ways.map((w) => (
        <li key={w.words}>
          {w.words}
          {w.start ? <span className="soft"> ({clock.full(w.start)})</span> : null}
        </li>
      ))}
    </ol>
  )
}
