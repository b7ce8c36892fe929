import { Autocomplete } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useMemo, useRef, useState } from 'react'
import { dayOf, dayText, wallTime } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import type { Appointment, Plan } from './queries'

/** Finds a person in the plan and goes to their day: '/' from anywhere on the page. */
export function PlanFind({ plan, go }: { plan: Plan; go: (a: Appointment) => void }) {
  const clock = useClock()
  const [text, setText] = useState('')
  const box = useRef<HTMLInputElement>(null)
  useHotkeys([['/', () => box.current?.focus()]])
  // Made once for a plan, and not before somebody looks for one.
  const asked = text.length >= 2
  const byWords = useMemo(
    () =>
      new Map(
        asked
          ? plan.appointments.map((a) => [
              `${a.person}${a.isBench ? ' (bench)' : ''} · ${dayText(dayOf(a.start, clock.zone))} ${wallTime(a.start, clock.zone)} · ${a.swap}`,
              a,
            ])
          : [],
      ),
    [asked, plan.appointments, clock.zone],
  )
  const data = useMemo(() => [...byWords.keys()], [byWords])
  return (
    <Autocomplete
      ref={box}
      aria-label="Find a person in the plan"
      placeholder="Find a person  /"
      data={data}
      limit={12}
      value={text}
      onChange={setText}
      onOptionSubmit={(value) => {
        const found = byWords.get(value)
        if (found) go(found)
        setTimeout(() => setText(''))
      }}
      selectFirstOptionOnChange
      w={190}
    />
  )
}
