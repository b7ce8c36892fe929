import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { useClock } from '../../shared/zone'

const shownAtFirst = 6

/** What happened, newest first. */
export function History({ seen }: { seen: SwapSeen }) {
  const clock = useClock()
  const [all, setAll] = useState(false)
  const rows = all ? seen.history : seen.history.slice(0, shownAtFirst)
  return (
    <section className="card" aria-labelledby="history">
      <div className="card-head">
        <h2 id="history">History</h2>
        <span className="soft">{seen.history.length} entries in the ledger</span>
      </div>
      <ol className="history">
        {rows.map((entry) => (
          <li key={entry.number}>
            <time dateTime={entry.at} className="mono soft">
              {clock.full(entry.at)}
            </time>
            <span>{entry.words}</span>
          </li>
        ))}
      </ol>
      {seen.history.length > shownAtFirst && (
        <button type="button" className="quiet" onClick={() => setAll(!all)}>
          {all ? 'Show the newest only' : `Show all ${seen.history.length}`}
        </button>
      )}
    </section>
  )
}
