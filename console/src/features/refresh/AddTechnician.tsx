import { Button, MultiSelect, NativeSelect, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { worldQuery } from '../plan/queries'
import { useAddTechnician } from './queries'

const shifts = [
  { value: '08:00-12:00|12:45-16:30', label: '8:00 – 16:30, weekdays' },
  { value: '09:00-12:30|13:15-17:30', label: '9:00 – 17:30, weekdays' },
  { value: '08:00-12:30', label: 'mornings, weekdays' },
  { value: '13:00-17:30', label: 'afternoons, weekdays' },
]

/** A technician by name, site and shift; all else is on the page Capacity. */
export function AddTechnician({ refresh }: { refresh: string }) {
  const world = useQuery(worldQuery(refresh))
  const add = useAddTechnician(refresh, world.data?.technicians.map((t) => t.key) ?? [])
  const [name, setName] = useState('')
  const [sites, setSites] = useState<string[]>([])
  const [shift, setShift] = useState(shifts[0]?.value ?? '')
  const all = world.data?.sites ?? []
  // With one site there is nothing to choose.
  const served = all.length === 1 ? all.map((s) => s.key) : sites
  const missing = !name.trim() ? 'A name is missing.' : served.length === 0 ? 'A site is missing.' : null
  return (
    <form
      className="part-form"
      aria-label="A technician"
      onSubmit={(event) => {
        event.preventDefault()
        if (missing) return
        add.mutate(
          { name: name.trim(), sites: served, shifts: shift.split('|') },
          {
            onSuccess: () => {
              setName('')
              setSites([])
            },
          },
        )
      }}
    >
      <TextInput aria-label="Name" placeholder="Name" value={name} onChange={(e) => setName(e.currentTarget.value)} />
      <MultiSelect
        aria-label="Sites"
        placeholder={served.length ? undefined : all.length ? 'Sites' : 'Sites come with the people'}
        data={all.map((s) => ({ value: s.key, label: s.name }))}
        value={served}
        onChange={setSites}
        disabled={all.length < 2}
      />
      <NativeSelect aria-label="Shift" data={shifts} value={shift} onChange={(e) => setShift(e.currentTarget.value)} />
      <Button type="submit" loading={add.isPending} disabled={missing !== null} title={missing ?? undefined}>
        Add
      </Button>
      {add.isError && <Failed error={add.error} />}
      <p className="soft part-hint">
        Other hours, skills, absences, or a list of them: <To to="/capacity#Technicians">Capacity</To>.
      </p>
    </form>
  )
}
