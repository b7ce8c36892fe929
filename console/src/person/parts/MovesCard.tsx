import { useState } from 'react'
import { wagonShare } from '../../shared/Line'
import { visible } from '../../shared/visible'
import { foldersOf } from '../folders'
import { askForPart, type Page, pause, start, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'
import { SayForm } from './SayForm'

/** How far it is: what moves now, and per folder what was there, what is copied, what is on the new computer. */
export function MovesCard({ page }: { page: Page }) {
  const { w, bytes, files, date, told } = useVoice()
  const [asks, setAsks] = useState(false)
  const [sent, setSent] = useState(false)
  const begin = useChange(start)
  const part = useChange(askForPart)
  const rest = useChange(pause)
  const { swap, total } = page
  const isNew = total.onNew !== null
  if (page.account.length === 0 && !swap.moving && page.maySelf.length === 0) return null
  const figures = (amount: { files: number; bytes: number } | null | undefined) => (amount && amount.files > 0 ? bytes(amount.bytes) : '')
  return (
    <Card title={w.moves.title}>
      {swap.moving && (
        <div role="status">
          <p>{w.moves.now(w.moves.kinds[swap.moving.kind] ?? swap.moving.kind)}</p>
          <progress value={wagonShare(swap)} aria-label={w.moves.kinds[swap.moving.kind] ?? swap.moving.kind} />
          {swap.moving.pausedAt ? (
            <p className="soft">{w.moves.rests}</p>
          ) : swap.moving.waits === 'battery' ? (
            <p className="soft">{w.moves.battery}</p>
          ) : swap.moving.isBeside ? (
            <p className="soft">{w.moves.beside}</p>
          ) : null}
        </div>
      )}
      {swap.moving && swap.moving.kind !== 'survey' && swap.moving.kind !== 'closing-trip' && (
        <button type="button" className="plain" disabled={rest.isPending} onClick={() => rest.mutate(!swap.moving?.pausedAt)}>
          {swap.moving.pausedAt ? w.moves.goOn : w.moves.rest}
        </button>
      )}
      {rest.error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">▲</span> {told(rest.error)}
        </p>
      )}
      {page.urgentReadyAt && !page.restoredAt && (
        <p className="sign-done">
          <span aria-hidden="true">✓</span> {w.moves.urgent}
        </p>
      )}
      {page.maySelf.map((kind) => (
        <div key={kind}>
          <button type="button" className="plain" disabled={begin.isPending} onClick={() => begin.mutate(kind)}>
            {w.moves.starts[kind] ?? kind}
          </button>
          <p className="soft">{w.moves.startsHow}</p>
        </div>
      ))}
      {begin.error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">■</span> {told(begin.error)}
        </p>
      )}
      {page.account.length > 0 && (
        <div className={isNew ? 'wide is-new' : 'wide'} role="group" aria-label={w.moves.title} tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th scope="col">{w.moves.folder}</th>
                <th scope="col">{w.moves.before}</th>
                <th scope="col" className="copied">
                  {w.moves.copied}
                </th>
                {isNew && <th scope="col">{w.moves.there}</th>}
              </tr>
            </thead>
            <tbody>
              {foldersOf(page.account, w.moves.settings).map((f) => (
                <tr key={f.path}>
                  <th scope="row">{f.path === '.' ? '…' : visible(f.path)}</th>
                  <td className="figures">{figures(f.old)}</td>
                  <td className="figures copied">{figures(f.inDepot)}</td>
                  {isNew && <td className="figures">{figures(f.onNew)}</td>}
                </tr>
              ))}
            </tbody>
            <tfoot>
              <tr>
                <th scope="row">{w.moves.sum}</th>
                {[total.old, total.inDepot, ...(isNew ? [total.onNew] : [])].map((amount, i) => (
                  <td className={i === 1 ? 'figures copied' : 'figures'} key={`sum-${i.toString()}`}>
                    {figures(amount)}
                    <span className="soft">{amount && amount.files > 0 ? files(amount.files) : ''}</span>
                  </td>
                ))}
              </tr>
            </tfoot>
          </table>
        </div>
      )}
      {page.heldUntil && <p className="soft">{w.moves.held(date(page.heldUntil))}</p>}
      {page.restoredAt &&
        (asks ? (
          <SayForm
            label={w.moves.partHow}
            action={w.moves.partDo}
            change={part}
            cancel={() => setAsks(false)}
            done={() => {
              setAsks(false)
              setSent(true)
            }}
            lines={1}
          />
        ) : (
          <>
            {sent && <p role="status">{w.moves.partSent}</p>}
            <button type="button" className="plain" onClick={() => setAsks(true)}>
              {w.moves.part}
            </button>
          </>
        ))}
    </Card>
  )
}
