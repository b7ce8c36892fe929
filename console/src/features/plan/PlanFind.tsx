import { Autocomplete } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useRef, useState } from 'react'
import { useClock } from '../../shared/zone'
import type { Appointment, Plan } from './queries'

/** Finds a person in the plan and goes to their day: '/' from anywhere on the page. */
export function PlanFind({ plan, go }: { plan: Plan; go: (a: Appointment) => void }) {
  const clock = useClock()
  const [text, setText] = useState('')
  const box = useRef<HTMLInputElement>(null)
  useHotkeys([['/', () => box.current?.focus()]])
  const words = (a: Appointment) => `${a.person}${a.isBench ? ' (bench)' : ''} · ${clock.day(a.start)} ${clock.time(a.start)} · ${a.swap}`
  return (
    <Autocomplete
      ref={box}
      aria-label="Find a person in the plan"
      placeholder="Find a person  /"
      data={text.length < 2 ? [] : [...new Set(plan.appointments.map(words))]}
      limit={12}
      value={text}
      onChange={setText}
      onOptionSubmit={(value) => {
        const found = plan.appointments.find((a) => words(a) === value)
        if (found) go(found)
        setTimeout(() => setText(''))
      }}
      selectFirstOptionOnChange
      w={190}
    />
  )
}
