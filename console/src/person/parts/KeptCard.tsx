import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { keptQuery, type Page, say, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'

/** What is kept about oneself, to take along or to have erased. */
export function KeptCard({ page }: { page: Page }) {
  const { w, date, told } = useVoice()
  const [open, setOpen] = useState(false)
  const kept = useQuery({ ...keptQuery, enabled: open })
  const erase = useChange((words: string) => say({ kind: 'erasure', words }))
  const asked = page.questions.some((q) => q.kind === 'erasure' && !q.answer)
  return (
    <Card title={w.kept.title}>
      <p className="soft">{w.kept.why}</p>
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary>{w.kept.show}</summary>
        {kept.isPending && open && <p role="status">{w.opening}</p>}
        {kept.error && <p role="alert">{told(kept.error)}</p>}
        {kept.data && (
          <>
            <ul className="kept">
              {kept.data.parts.map((part) => (
                <li key={part.kind}>
                  <span>{w.kept.kinds[part.kind] ?? part.kind}</span> <span className="figures">{part.count}</span>
                </li>
              ))}
            </ul>
            <p className="soft">{kept.data.erasesOn ? w.kept.until(date(kept.data.erasesOn)) : w.kept.untilAsked}</p>
            <div className="actions">
              <a className="button plain" href="/api/person/export" download>
                {w.kept.take}
              </a>
              {asked ? (
                <p className="soft">{w.kept.asked}</p>
              ) : (
                <button type="button" className="quiet" disabled={erase.isPending} onClick={() => erase.mutate(w.kept.please)}>
                  {w.kept.erase}
                </button>
              )}
            </div>
            {erase.error && (
              <p role="alert" className="problem">
                <span aria-hidden="true">■</span> {told(erase.error)}
              </p>
            )}
          </>
        )}
      </details>
    </Card>
  )
}
