import { type FormEvent, useId, useState } from 'react'
import type { Schemas } from '../../api/client'
import { stopWaiting, useChange, waitFor } from '../queries'
import { useVoice } from '../speak'

const parts = { all: ['00:00', '23:59'], morning: ['00:00', '13:00'], afternoon: ['12:00', '23:59'] } as const

/** A place in the line for a time on some day. */
export function WaitForm({ from, done }: { from: string; done: () => void }) {
  const { w, instant, told } = useVoice()
  const wait = useChange(waitFor)
  const [day, setDay] = useState('')
  const [part, setPart] = useState<keyof typeof parts>('all')
  const id = useId()
  const send = (event: FormEvent) => {
    event.preventDefault()
    if (!day) return
    wait.mutate({ from: instant(`${day}T${parts[part][0]}`), until: instant(`${day}T${parts[part][1]}`) }, { onSuccess: done })
  }
  return (
    <details>
      <summary>{w.when.waitTitle}</summary>
      <form onSubmit={send} className="say">
        <p className="soft">{w.when.waitHow}</p>
        <label htmlFor={`${id}day`}>{w.when.waitDay}</label>
        <input id={`${id}day`} type="date" required min={from.slice(0, 10)} value={day} onChange={(e) => setDay(e.currentTarget.value)} />
        <label htmlFor={`${id}part`}>{w.when.waitPart}</label>
        <select id={`${id}part`} value={part} onChange={(e) => setPart(e.currentTarget.value as keyof typeof parts)}>
          {Object.entries(w.when.parts3).map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </select>
        {wait.error && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {told(wait.error)}
          </p>
        )}
        <div className="actions">
          <button type="submit" className="plain" disabled={wait.isPending || !day}>
            {w.when.waitDo}
          </button>
        </div>
      </form>
    </details>
  )
}

/** What one waits for, and how many are before. */
export function Waits({ wait }: { wait: NonNullable<Schemas['PersonPage']['booking']['wait']> }) {
  const { w, day } = useVoice()
  const stop = useChange(stopWaiting)
  return (
    <div className="aside">
      <p>{w.when.waits(day(wait.from), wait.ahead)}</p>
      <button type="button" className="quiet" disabled={stop.isPending} onClick={() => stop.mutate(undefined)}>
        {w.when.waitStop}
      </button>
    </div>
  )
}
