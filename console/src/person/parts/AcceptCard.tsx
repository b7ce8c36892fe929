import { type FormEvent, useState } from 'react'
import { Refused } from '../../api/client'
import { accept, type Page, say, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'
import { SayForm } from './SayForm'

/** All is there, with their name under it; or what is missing. */
export function AcceptCard({ page }: { page: Page }) {
  const { w, moment, told } = useVoice()
  const [asks, setAsks] = useState<'accept' | 'missing' | null>(null)
  const [name, setName] = useState('')
  const sign = useChange(() => accept({ facts: page.acceptance.facts ?? '', name, drawn: null }))
  const missing = useChange((words: string) => say({ kind: 'missing', words }))
  const part = page.acceptance
  if (part.at)
    return (
      <Card title={w.accept.title}>
        <p className="sign-done">
          <span aria-hidden="true">✓</span> {w.accept.done(moment(part.at))}
        </p>
      </Card>
    )
  if (!page.restoredAt)
    return (
      <Card title={w.accept.title}>
        <p className="soft">{w.accept.notYet}</p>
      </Card>
    )
  const send = (event: FormEvent) => {
    event.preventDefault()
    sign.mutate(undefined)
  }
  const stale = sign.error instanceof Refused && sign.error.status === 412
  return (
    <Card title={w.accept.title} tone="now">
      <p>{w.accept.look}</p>
      {asks === 'accept' ? (
        <form onSubmit={send} className="say">
          <p lang="en">{w.accept.says(part.statement ?? '')}</p>
          <label>
            {w.accept.name}
            <input value={name} autoComplete="name" onChange={(e) => setName(e.currentTarget.value)} />
          </label>
          {part.missing.length > 0 && (
            <div className="soft">
              {w.accept.waits}
              <ul lang="en">
                {part.missing.map((m) => (
                  <li key={m}>{m}</li>
                ))}
              </ul>
            </div>
          )}
          {sign.error && (
            <p role="alert" className="problem">
              <span aria-hidden="true">■</span> {stale ? w.accept.stale : told(sign.error)}
            </p>
          )}
          <div className="actions">
            <button type="submit" disabled={!name.trim() || sign.isPending || part.missing.length > 0}>
              {w.accept.yes}
            </button>
            <button type="button" className="quiet" onClick={() => setAsks(null)}>
              {w.cancel}
            </button>
          </div>
        </form>
      ) : asks === 'missing' ? (
        <SayForm label={w.accept.missingHow} action={w.ask.send} change={missing} cancel={() => setAsks(null)} done={() => setAsks(null)} />
      ) : (
        <div className="actions">
          <button type="button" onClick={() => setAsks('accept')}>
            {w.accept.yes}
          </button>
          <button type="button" className="plain" onClick={() => setAsks('missing')}>
            {w.accept.missing}
          </button>
        </div>
      )}
    </Card>
  )
}
