import { Button, Checkbox, TextInput } from '@mantine/core'
import { dayOf } from '../../../shared/wall'
import { useClock } from '../../../shared/zone'
import { AsText } from './AsText'
import { readSpan, type Span, writeSpan } from './spans'

type Props = {
  label: string
  help?: string
  required?: boolean
  value: string
  set: (value: string) => void
  /** Just one line. */
  single?: boolean
}

/** Days, or stretches from a time to a time, a line each. */
export function SpansField({ single, ...field }: Props) {
  const { zone } = useClock()
  return (
    <AsText {...field} read={readSpan} write={writeSpan}>
      {(spans, put) => {
        const today = dayOf(Date.now(), zone)
        const change = (at: number, to: Partial<Span>) => put(spans.map((s, i) => (i === at ? { ...s, ...to } : s)))
        // A stretch never ends before it begins: whoever moves its first day moves the last with it.
        const from = (at: number, s: Span, day: string) => day && change(at, { from: day, until: s.until < day ? day : s.until })
        return (
          <>
            {spans.map((s, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is what stands at its place
              <div key={i} className="span-line" role="group" aria-label={`${field.label}, ${i + 1}`}>
                <TextInput type="date" aria-label="First day" value={s.from} onChange={(e) => from(i, s, e.currentTarget.value)} />
                {!s.isWhole && (
                  <TextInput
                    type="time"
                    aria-label="From"
                    value={s.fromTime}
                    onChange={(e) => e.currentTarget.value && change(i, { fromTime: e.currentTarget.value })}
                  />
                )}
                <TextInput
                  type="date"
                  aria-label="Last day"
                  value={s.until}
                  min={s.from}
                  onChange={(e) => e.currentTarget.value && change(i, { until: e.currentTarget.value })}
                />
                {!s.isWhole && (
                  <TextInput
                    type="time"
                    aria-label="Until"
                    value={s.untilTime}
                    onChange={(e) => e.currentTarget.value && change(i, { untilTime: e.currentTarget.value })}
                  />
                )}
                <Checkbox label="whole days" checked={s.isWhole} onChange={(e) => change(i, { isWhole: e.currentTarget.checked })} />
                {!single && (
                  <Button
                    size="compact-sm"
                    variant="default"
                    aria-label="Take this out"
                    onClick={() => put(spans.filter((_, j) => j !== i))}
                  >
                    ×
                  </Button>
                )}
              </div>
            ))}
            {(!single || spans.length === 0) && (
              <Button
                size="compact-sm"
                variant="default"
                onClick={() => put([...spans, { from: today, until: today, isWhole: true, fromTime: '08:00', untilTime: '17:00' }])}
              >
                {spans.length ? 'Another one' : single ? 'Choose' : 'Add days'}
              </Button>
            )}
          </>
        )
      }}
    </AsText>
  )
}
