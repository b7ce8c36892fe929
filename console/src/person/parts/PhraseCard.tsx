import { type FormEvent, useState } from 'react'
import { type Page, setPassphrase, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'

const least = 12

export function PhraseCard({ page }: { page: Page }) {
  const { w, moment, told } = useVoice()
  const [asks, setAsks] = useState(false)
  const [text, setText] = useState('')
  const change = useChange(setPassphrase)
  const stands = page.passphrase?.setAt || page.passphrase?.waits
  const send = (event: FormEvent) => {
    event.preventDefault()
    change.mutate(text, {
      onSuccess: () => {
        setText('')
        setAsks(false)
      },
    })
  }
  return (
    <Card title={w.phrase.title}>
      <p>{w.phrase.why}</p>
      <p className="soft">{w.phrase.forget}</p>
      {page.passphrase?.waits ? (
        <p className="sign-done">
          <span aria-hidden="true">✓</span> {w.phrase.waits}
        </p>
      ) : page.passphrase?.setAt ? (
        <p className="sign-done">
          <span aria-hidden="true">✓</span> {w.phrase.set(moment(page.passphrase.setAt))}
        </p>
      ) : null}
      {asks || !stands ? (
        <form onSubmit={send} className="say">
          <label>
            {w.phrase.field}
            <input type="password" autoComplete="new-password" value={text} onChange={(e) => setText(e.currentTarget.value)} />
          </label>
          <p className="soft">{w.phrase.shorter}</p>
          {change.error && (
            <p role="alert" className="problem">
              <span aria-hidden="true">■</span> {told(change.error)}
            </p>
          )}
          <button type="submit" disabled={text.length < least || change.isPending}>
            {w.phrase.keep}
          </button>
        </form>
      ) : (
        <button type="button" className="plain" onClick={() => setAsks(true)}>
          {w.phrase.change}
        </button>
      )}
    </Card>
  )
}
