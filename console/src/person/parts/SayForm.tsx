import { type FormEvent, useId, useState } from 'react'
import { useVoice } from '../speak'

type Props = {
  label: string
  action: string
  most?: number
  change: { mutate: (text: string, options: { onSuccess: () => void }) => void; isPending: boolean; error: Error | null }
  cancel?: () => void
  done?: () => void
  lines?: number
}

/** A field and its button. What was typed stays until it has arrived. */
export function SayForm({ label, action, most = 400, change, cancel, done, lines = 3 }: Props) {
  const { w, told } = useVoice()
  const [text, setText] = useState('')
  const id = useId()
  const send = (event: FormEvent) => {
    event.preventDefault()
    if (!text.trim()) return
    change.mutate(text.trim(), {
      onSuccess: () => {
        setText('')
        done?.()
      },
    })
  }
  return (
    <form onSubmit={send} className="say">
      <label htmlFor={id}>{label}</label>
      {lines > 1 ? (
        <textarea id={id} rows={lines} maxLength={most} value={text} onChange={(e) => setText(e.currentTarget.value)} />
      ) : (
        <input id={id} maxLength={most} value={text} autoComplete="off" onChange={(e) => setText(e.currentTarget.value)} />
      )}
      {change.error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">■</span> {told(change.error)}
        </p>
      )}
      <div className="actions">
        <button type="submit" disabled={change.isPending || !text.trim()}>
          {action}
        </button>
        {cancel && (
          <button type="button" className="quiet" onClick={cancel}>
            {w.cancel}
          </button>
        )}
      </div>
    </form>
  )
}
