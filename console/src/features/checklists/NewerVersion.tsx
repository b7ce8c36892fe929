import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { templatesQuery, useMove } from './queries'
import { changeWords } from './words'

/** A newer version of the swap's checklist: offered, never taken by itself. */
export function NewerVersion({ seen, works }: { seen: SwapSeen; works: boolean }) {
  const { checklist } = seen
  const [asks, setAsks] = useState(false)
  const templates = useQuery({ ...templatesQuery(useRefresh().key), enabled: works })
  const newest = Math.max(0, ...(templates.data ?? []).filter((t) => t.name === checklist.template).map((t) => t.version))
  if (!works || newest <= checklist.templateVersion || checklist.frozen.length > 0) return null
  return (
    <p className="soft newer">
      Version {newest} is there.{' '}
      <button type="button" className="quiet" onClick={() => setAsks(true)}>
        What would change?
      </button>
      {asks && <MoveDialog swap={seen.swap.id} close={() => setAsks(false)} />}
    </p>
  )
}

function MoveDialog({ swap, close }: { swap: string; close: () => void }) {
  const look = useMove(swap)
  const move = useMove(swap)
  if (look.isIdle) look.mutate(false)
  const moved = look.data
  return (
    <FormDialog
      title="A newer version of this checklist"
      close={close}
      change={look.isError ? look : move}
      send={() => move.mutate(true, { onSuccess: close })}
      action={moved ? `Move to version ${moved.toVersion}` : 'Move'}
      keep="Keep this one"
      ready={!!moved}
    >
      {moved && (
        <ul className="rows">
          {moved.steps.map((s) => (
            <li key={s.key}>
              <strong>{changeWords[s.what] ?? s.what}:</strong> {s.title}
              {s.wasDealtWith && <span className="soft"> (what was said about it no longer counts; the history keeps it)</span>}
            </li>
          ))}
          {moved.steps.length === 0 && <li>Nothing changes for this swap.</li>}
        </ul>
      )}
    </FormDialog>
  )
}
