import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useRouterState } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { useRefresh } from '../../shell/refresh'
import { TellDamage } from '../damages/TellDamage'
import { worldQuery } from '../plan/queries'
import { meQuery } from '../session/queries'
import { ChoosingCard } from './ChoosingCard'
import { EditThing } from './EditThing'
import { PlaceRulesCard } from './PlaceRulesCard'
import { RealLengths } from './RealLengths'
import { TakeCalendar } from './TakeCalendar'
import { TakeTechnicians } from './TakeTechnicians'
import { type Thing, things, type Values } from './things'
import { WaysCard } from './WaysCard'

/** All that a plan is made from, each with a default, each to be changed here. */
export function CapacityPage() {
  const refresh = useRefresh()
  const world = useQuery(worldQuery(refresh.key))
  const me = useQuery(meQuery)
  const at = useRouterState({ select: (state) => state.location.hash })
  const isThere = world.isSuccess
  useEffect(() => {
    if (isThere && at) document.getElementById(at)?.scrollIntoView?.()
  }, [isThere, at])
  const [editing, setEditing] = useState<{ thing: Thing; values: Values; isNew: boolean } | null>(null)
  if (world.isPending) return <Coming rows={12} />
  if (world.isError) return <Failed error={world.error} retry={() => world.refetch()} />
  const leads = me.data?.role === 'coordinator'
  return (
    <>
      <header className="head">
        <div>
          <h1>Capacity</h1>
          <p className="soft">What a plan is made from. Everything has a default: a first plan needs the roster and one technician only.</p>
        </div>
      </header>
      {things.map((thing) => {
        const rows = thing.rows(world.data)
        return (
          <section key={thing.name} id={thing.name.replaceAll(' ', '-')} className="card" aria-label={thing.name}>
            <div className="card-head">
              <h2>
                {thing.name} <span className="soft why">{thing.why}</span> {thing.word && <Word of={thing.word} />}
              </h2>
              {leads && (
                <span className="actions">
                  {thing.one === 'technician' && <TakeTechnicians />}
                  {thing.one === 'closure' && <TakeCalendar />}
                  {thing.one === 'depot' && world.data.depots.length > 0 && <TellDamage depots={world.data.depots} />}
                  <Button
                    size="compact-sm"
                    variant="default"
                    onClick={() => setEditing({ thing, values: thing.fresh, isNew: true })}
                    aria-label={`Add a ${thing.one}`}
                  >
                    Add
                  </Button>
                </span>
              )}
            </div>
            {rows.length === 0 ? (
              <Empty>None.</Empty>
            ) : (
              <div className="table-scroll" tabIndex={0} role="group" aria-label={`All ${thing.name.toLowerCase()}`}>
                <table className="account words">
                  <thead>
                    <tr>
                      {thing.heads.map((h) => (
                        <th key={h}>{h}</th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {rows.map((row) => (
                      <tr key={row.key}>
                        {row.cells.map((cell, i) =>
                          i === 0 ? (
                            <th key={thing.heads[0]}>
                              {leads ? (
                                <button
                                  type="button"
                                  className="quiet strong"
                                  onClick={() => setEditing({ thing, values: row.values, isNew: false })}
                                  aria-label={`Change ${cell}`}
                                >
                                  {cell}
                                </button>
                              ) : (
                                cell
                              )}
                            </th>
                          ) : (
                            <td key={thing.heads[i]}>{cell}</td>
                          ),
                        )}
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
          </section>
        )
      })}
      <ChoosingCard refresh={refresh.key} leads={leads} />
      <RealLengths refresh={refresh.key} leads={leads} />
      <WaysCard refresh={refresh.key} />
      <PlaceRulesCard refresh={refresh.key} leads={leads} />
      {editing && <EditThing key={editing.values.key ?? 'new'} {...editing} world={world.data} close={() => setEditing(null)} />}
    </>
  )
}
