import { Button, TextInput } from '@mantine/core'
import { AsText } from './AsText'
import { readShift, type Shift, weekdays, writeShift } from './shifts'

type Props = {
  label: string
  help?: string
  required?: boolean
  value: string
  set: (value: string) => void
  /** Just one line. */
  single?: boolean
}

const short: Record<string, string> = { mon: 'Mo', tue: 'Tu', wed: 'We', thu: 'Th', fri: 'Fr', sat: 'Sa', sun: 'Su' }
const fresh: Shift = { days: ['mon', 'tue', 'wed', 'thu', 'fri'], from: '13:00', until: '17:00' }

/** Days of the week and hours, a line each. */
export function ShiftsField({ single, ...field }: Props) {
  return (
    <AsText {...field} read={readShift} write={writeShift}>
      {(shifts, put) => {
        const change = (at: number, to: Partial<Shift>) => put(shifts.map((s, i) => (i === at ? { ...s, ...to } : s)))
        return (
          <>
            {shifts.map((shift, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is what stands at its place
              <div key={i} className="shift-line" role="group" aria-label={`${field.label}, ${i + 1}`}>
                <span className="week">
                  {weekdays.map((day) => (
                    <label key={day}>
                      <input
                        type="checkbox"
                        checked={shift.days.includes(day)}
                        // The last day stays: hours on no day are nothing.
                        disabled={shift.days.length === 1 && shift.days[0] === day}
                        onChange={(e) =>
                          change(i, { days: e.currentTarget.checked ? [...shift.days, day] : shift.days.filter((d) => d !== day) })
                        }
                      />
                      {short[day]}
                    </label>
                  ))}
                </span>
                <TextInput
                  type="time"
                  aria-label="From"
                  value={shift.from}
                  onChange={(e) => e.currentTarget.value && change(i, { from: e.currentTarget.value })}
                />
                <TextInput
                  type="time"
                  aria-label="Until"
                  value={shift.until === '24:00' ? '00:00' : shift.until}
                  onChange={(e) => e.currentTarget.value && change(i, { until: e.currentTarget.value })}
                />
                {!single && shifts.length > 1 && (
                  <Button
                    size="compact-sm"
                    variant="default"
                    aria-label="Take these hours out"
                    onClick={() => put(shifts.filter((_, j) => j !== i))}
                  >
                    ×
                  </Button>
                )}
              </div>
            ))}
            {(!single || shifts.length === 0) && (
              <Button size="compact-sm" variant="default" onClick={() => put([...shifts, fresh])}>
                More hours
              </Button>
            )}
          </>
        )
      }}
    </AsText>
  )
}
