import { useState } from 'react'
import { visible } from '../../shared/visible'
import { isHidden } from '../folders'
import { decide, type Page, say, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'
import { SayForm } from './SayForm'

/** What was found and what comes along; leaving out, naming a place, saying what is needed first. */
export function AlongCard({ page }: { page: Page }) {
  const { w, files, bytes, told } = useVoice()
  const [leaves, setLeaves] = useState<string | null>(null)
  const [adds, setAdds] = useState(false)
  const [filled, setFilled] = useState(false)
  const folder = useChange((words: string) => say({ kind: 'folder', words }))
  const list = page.carryList
  const first = list?.first ?? []
  const leave = useChange((reason: string) => decide({ decisions: [{ path: leaves ?? '', choice: 'leave-out', reason }], first: null }))
  const bring = useChange((path: string) =>
    decide({ decisions: [{ path: path.replace(/^\/+|\/+$/g, ''), choice: 'carry', reason: null }], first: null }),
  )
  const order = useChange((next: string[]) => decide({ decisions: [], first: next }))
  if (!list) return null
  const { review } = list
  const lines = new Map(list.lines.map((l) => [l.path, l]))
  // Every folder of the account, and below it what somebody or a rule decided.
  const rows = [
    ...page.account.filter((f) => !isHidden(f.folder) && f.old.files > 0).map((f) => ({ path: f.folder, amount: f.old })),
    ...list.lines
      .filter((l) => !isHidden(l.path) && !page.account.some((f) => f.folder === l.path))
      .map((l) => ({ path: l.path, amount: l.files })),
  ].sort((a, b) => (b.amount?.bytes ?? 0) - (a.amount?.bytes ?? 0))
  const cloud = (path: string) =>
    page.inventory?.places.some((p) => p.kind === 'cloud' && p.isLeftOut && (p.path === path || `${p.home}/${p.path}` === path)) ?? false
  // Where a trip was made without a survey, the account knows all the same.
  const comes = page.account.reduce(
    (sum, f) => ({ files: sum.files + f.old.files - f.leftOut.files, bytes: sum.bytes + f.old.bytes - f.leftOut.bytes }),
    { files: 0, bytes: 0 },
  )
  const gone = page.account.reduce((sum, f) => sum + (f.gone?.files ?? 0), 0)
  const running = page.inventory?.running ?? []
  return (
    <Card title={w.along.title}>
      <p>
        {page.inventory
          ? w.along.all(files(review.carried.files), bytes(review.carried.bytes))
          : comes.files > 0
            ? w.along.all(files(comes.files), bytes(comes.bytes))
            : w.along.notYet}
      </p>
      {review.leftOut.files > 0 && <p className="soft">{w.along.stays(files(review.leftOut.files), bytes(review.leftOut.bytes))}</p>}
      {gone > 0 && <p>{w.along.gone(files(gone))}</p>}
      {running.length > 0 && (
        <p>
          {w.along.open} <strong>{[...new Set(running.map((r) => r.program))].join(', ')}</strong>
        </p>
      )}
      {rows.length > 0 && (
        <details>
          <summary>{w.along.show}</summary>
          <ul className="folders">
            {rows.map(({ path, amount }) => {
              const line = lines.get(path)
              const stays = line && line.choice !== 'carry'
              return (
                <li key={path}>
                  <span className="name">
                    {path === '.' ? '…' : visible(path)}
                    <span className="soft">
                      {stays
                        ? ` ${cloud(path) ? w.along.cloud : line.by ? w.along.left(line.reason) : w.along.ruled}`
                        : line?.by === page.name
                          ? ` ${w.along.added}`
                          : ''}
                    </span>
                  </span>
                  <span className="figures">{amount ? bytes(amount.bytes) : ''}</span>
                  <span className="actions">
                    {!stays && path !== '.' && (
                      <button
                        type="button"
                        className={first.includes(path) ? 'chip on' : 'chip'}
                        aria-pressed={first.includes(path)}
                        title={w.along.firstHow}
                        aria-label={`${w.along.first}: ${visible(path)}`}
                        onClick={() => order.mutate(first.includes(path) ? first.filter((p) => p !== path) : [...first, path])}
                      >
                        {w.along.first}
                      </button>
                    )}
                    {path === '.' ? null : stays ? (
                      cloud(path) ? null : (
                        <button
                          type="button"
                          className="chip"
                          aria-label={`${w.along.bring}: ${visible(path)}`}
                          onClick={() => bring.mutate(path)}
                        >
                          {w.along.bring}
                        </button>
                      )
                    ) : (
                      <button
                        type="button"
                        className="chip"
                        aria-label={`${w.along.leave}: ${visible(path)}`}
                        onClick={() => setLeaves(path)}
                      >
                        {w.along.leave}
                      </button>
                    )}
                  </span>
                  {leaves === path && (
                    <SayForm
                      label={w.along.leaveWhy(path)}
                      action={w.along.leave}
                      change={leave}
                      cancel={() => setLeaves(null)}
                      done={() => setLeaves(null)}
                      lines={1}
                    />
                  )}
                </li>
              )
            })}
          </ul>
        </details>
      )}
      {(bring.error ?? order.error) && !adds && (
        <p role="alert" className="problem">
          <span aria-hidden="true">■</span> {told(bring.error ?? order.error)}
        </p>
      )}
      {adds ? (
        <SayForm
          label={w.along.addHow}
          action={w.along.addDo}
          change={bring}
          cancel={() => setAdds(false)}
          done={() => setAdds(false)}
          lines={1}
        />
      ) : filled ? (
        <SayForm
          label={w.along.filledHow}
          action={w.along.filledDo}
          change={folder}
          cancel={() => setFilled(false)}
          done={() => setFilled(false)}
          lines={1}
        />
      ) : (
        <div className="actions">
          <button type="button" className="plain" onClick={() => setAdds(true)}>
            {w.along.add}
          </button>
          {page.total.inDepot.files === 0 && !page.swap.moving && (
            <button type="button" className="plain" onClick={() => setFilled(true)}>
              {w.along.filled}
            </button>
          )}
        </div>
      )}
    </Card>
  )
}
