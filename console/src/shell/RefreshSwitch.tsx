import { useNavigate } from '@tanstack/react-router'
import type { Refresh } from '../api/client'

const place = 'yard-refresh'
const other = ' new'

/** The refresh that was shown last on this device; null: none was, or the device keeps nothing. */
export const lastRefresh = () => {
  try {
    return localStorage.getItem(place)
  } catch {
    return null
  }
}

/** Keeps which refresh is shown, for the next time. */
export const keepRefresh = (key: string) => {
  try {
    localStorage.setItem(place, key)
  } catch {
    // A device that keeps nothing shows the first one.
  }
}

/** Which refresh the pages show; where there are several, the way to another, and for who may, to a new one. */
export function RefreshSwitch({
  refresh,
  all,
  mayMake,
  choose,
}: {
  refresh: Refresh
  all: Refresh[]
  mayMake: boolean
  choose: (key: string) => void
}) {
  const navigate = useNavigate()
  if (all.length < 2 && !mayMake) return <p className="soft refresh-named">{refresh.name}</p>
  return (
    <select
      className="refresh-switch"
      aria-label="Refresh"
      value={refresh.key}
      onChange={(event) => {
        const to = event.currentTarget.value
        if (to === other) return void navigate({ to: '/refresh/new' })
        choose(to)
        // What is open belongs to the other one.
        void navigate({ to: '/' })
      }}
    >
      {all.map((r) => (
        <option key={r.key} value={r.key}>
          {r.name}
        </option>
      ))}
      {mayMake && <option value={other}>New refresh…</option>}
    </select>
  )
}
