import { Button, Select, TextInput } from '@mantine/core'
import { type FormEvent, useRef, useState } from 'react'
import { useRefresh } from '../../shell/refresh'
import { type Act, useMoveOld } from './queries'

const acts: { value: Act; label: string; where: string }[] = [
  { value: 'taken', label: 'I take it', where: '' },
  { value: 'placed', label: 'It lies at', where: 'Place: room, shelf' },
  { value: 'loaded', label: 'Onto pallet', where: 'Pallet' },
  { value: 'unloaded', label: 'Off its pallet, to', where: 'Place: room, shelf' },
]

type Said = { key: number; tag: string; words: string; bad: boolean }

/** One tag after the other, by a code reader or by hand: what was chosen is said of each. */
export function ScanCard() {
  const move = useMoveOld(useRefresh().key)
  const [act, setAct] = useState<Act>('placed')
  const [where, setWhere] = useState('')
  const [tag, setTag] = useState('')
  const [said, setSaid] = useState<Said[]>([])
  const box = useRef<HTMLInputElement>(null)
  const count = useRef(0)
  const chosen = acts.find((a) => a.value === act)
  const needsWhere = !!chosen?.where
  const tell = (of: string, words: string, bad: boolean) => {
    count.current += 1
    const key = count.current
    setSaid((before) => [{ key, tag: of, words, bad }, ...before].slice(0, 8))
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const read = tag.trim()
    if (!read || (needsWhere && !where.trim())) return
    setTag('')
    box.current?.focus()
    move.mutate(
      { tag: read, act, where: needsWhere ? where.trim() : null },
      { onSuccess: (o) => tell(o.tag, `${o.name}: ${o.words}`, false), onError: (e) => tell(read, e.message, true) },
    )
  }
  return (
    <section className="card" aria-labelledby="scan">
      <div className="card-head">
        <h2 id="scan">Scan</h2>
        <span className="soft">a code reader ends each tag with Enter</span>
      </div>
      <form className="scan" onSubmit={submit}>
        <Select
          aria-label="What happens"
          data={acts.map(({ value, label }) => ({ value, label }))}
          value={act}
          onChange={(value) => setAct((value ?? 'placed') as Act)}
          allowDeselect={false}
        />
        {needsWhere && (
          <TextInput
            aria-label={chosen?.where}
            placeholder={chosen?.where}
            value={where}
            onChange={(e) => setWhere(e.currentTarget.value)}
            required
            maxLength={120}
          />
        )}
        <TextInput
          ref={box}
          aria-label="Tag"
          placeholder="Tag"
          className="mono"
          value={tag}
          onChange={(e) => setTag(e.currentTarget.value)}
          autoComplete="off"
        />
        <Button type="submit" disabled={!tag.trim() || (needsWhere && !where.trim())}>
          Say so
        </Button>
      </form>
      <ul aria-live="polite" className="said">
        {said.map((s) => (
          <li key={s.key} className={s.bad ? 'sign-stopped' : ''}>
            <span aria-hidden="true">{s.bad ? '■' : '✓'}</span> <span className="mono">{s.tag}</span> {s.words}
          </li>
        ))}
      </ul>
    </section>
  )
}
