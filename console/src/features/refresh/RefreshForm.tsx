import { Autocomplete, Button, TextInput } from '@mantine/core'
import { useState } from 'react'
import { Failed } from '../../shared/States'
import { dayOf } from '../../shared/wall'
import type { RefreshValues } from './queries'

const dayMs = 86_400_000
const zones = (): string[] => Intl.supportedValuesOf?.('timeZone') ?? []
const lastOf = (starts: string, days: number) => new Date(Date.parse(`${starts}T00:00:00Z`) + (days - 1) * dayMs).toISOString().slice(0, 10)
const daysOf = (starts: string, last: string) => Math.round((Date.parse(last) - Date.parse(starts)) / dayMs) + 1

/** The next Monday after today at this device, and the zone that it is in. */
export function freshRefresh(now = Date.now()): RefreshValues {
  const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
  const today = new Date(`${dayOf(now, zone)}T00:00:00Z`)
  const ahead = (8 - today.getUTCDay()) % 7 || 7
  return { name: '', zone, starts: new Date(today.getTime() + ahead * dayMs).toISOString().slice(0, 10), days: 14 }
}

/** Name, days and zone of a refresh. */
export function RefreshForm({
  values: first,
  fixed = false,
  action,
  sending,
  error,
  send,
}: {
  values: RefreshValues
  /** A plan was made: the first day and the zone stay. */
  fixed?: boolean
  action: string
  sending: boolean
  error: unknown
  send: (values: RefreshValues) => void
}) {
  const [values, setValues] = useState(first)
  const [last, setLast] = useState(lastOf(first.starts, first.days))
  const days = daysOf(values.starts, last)
  const wrong = !values.name.trim()
    ? 'It needs a name.'
    : !values.starts || !last
      ? 'It needs a first and a last day.'
      : days < 1
        ? 'It ends before it begins.'
        : days > 366
          ? 'It is longer than 366 days.'
          : null
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault()
        if (!wrong) send({ ...values, name: values.name.trim(), zone: values.zone.trim(), days })
      }}
    >
      <TextInput
        label="Name"
        description="As people will read it: on their page, in mails, on papers"
        placeholder="Autumn refresh"
        value={values.name}
        onChange={(e) => setValues({ ...values, name: e.currentTarget.value })}
        required
        data-autofocus
      />
      <div className="side-by-side">
        <TextInput
          type="date"
          label="First day"
          value={values.starts}
          disabled={fixed}
          onChange={(e) => setValues({ ...values, starts: e.currentTarget.value })}
          required
        />
        <TextInput type="date" label="Last day" value={last} onChange={(e) => setLast(e.currentTarget.value)} required />
      </div>
      <Autocomplete
        label="Time zone"
        description={fixed ? 'A plan was made: its first day and its zone stay as they are' : 'Whose clocks all times are from'}
        data={zones()}
        limit={30}
        value={values.zone}
        disabled={fixed}
        onChange={(zone) => setValues({ ...values, zone })}
        required
      />
      {error != null && <Failed error={error} />}
      <div className="actions">
        {wrong && <span className="soft">{wrong}</span>}
        <Button type="submit" loading={sending} disabled={wrong !== null} title={wrong ?? undefined}>
          {action}
        </Button>
      </div>
    </form>
  )
}
