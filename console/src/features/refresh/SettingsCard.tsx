import { Button, NumberInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import type { Refresh } from '../../api/client'
import { Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { keepingQuery, useKeeping, useOldHold } from './queries'

/** How long things are kept, and where the rest is set. */
export function SettingsCard({ refresh, leads }: { refresh: Refresh; leads: boolean }) {
  const keeping = useQuery(keepingQuery(refresh.key))
  const hold = useOldHold(refresh.key)
  const keep = useKeeping(refresh.key)
  return (
    <section className="card" aria-labelledby="kept">
      <div className="card-head">
        <h2 id="kept">How long things are kept</h2>
      </div>
      <ul className="rows">
        <Setting
          name="Old computers"
          why="Days that each is held after its swap was signed off, before it may be wiped"
          value={refresh.oldHoldDays}
          leads={leads}
          sending={hold.isPending}
          error={hold.error}
          send={(days) => hold.mutate(days ?? 0)}
        />
        {keeping.data && (
          <Setting
            name="What is known of people"
            why="Days after the last of a person's swaps is closed until it is erased; empty: only when somebody asks"
            value={keeping.data.days}
            mayBeEmpty
            leads={leads}
            sending={keep.isPending}
            error={keep.error}
            send={(days) => keep.mutate({ days, asksForNames: keeping.data.asksForNames })}
          />
        )}
      </ul>
      <p className="soft">
        Parcels: each depot has its own days, under <To to="/capacity#Depots">Capacity</To>. Who did what, and the proof of it:{' '}
        <To to="/history">History</To>. What one person may be given or have erased: on their swap's page.
      </p>
    </section>
  )
}

function Setting({
  name,
  why,
  value,
  mayBeEmpty = false,
  leads,
  sending,
  error,
  send,
}: {
  name: string
  why: string
  value: number | null
  mayBeEmpty?: boolean
  leads: boolean
  sending: boolean
  error: unknown
  send: (days: number | null) => void
}): ReactNode {
  const [typed, setTyped] = useState<number | string>(value ?? '')
  const days = typed === '' ? null : Number(typed)
  const wrong = days === null ? !mayBeEmpty : !(days >= 0 && days <= 3660)
  return (
    <li className="setting-row">
      <div>
        <strong>{name}</strong>
        <p className="soft">{why}</p>
        {error != null && <Failed error={error} />}
      </div>
      {leads ? (
        <form
          className="setting-form"
          onSubmit={(event) => {
            event.preventDefault()
            if (!wrong) send(days)
          }}
        >
          <NumberInput aria-label={`${name}: days`} value={typed} min={0} max={3660} suffix=" days" onChange={setTyped} />
          <Button type="submit" size="compact-sm" variant="default" loading={sending} disabled={wrong || days === value}>
            Keep it so
          </Button>
        </form>
      ) : (
        <span>{value === null ? 'until somebody asks' : `${value} days`}</span>
      )}
    </li>
  )
}
