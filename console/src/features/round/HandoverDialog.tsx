import { Select, Textarea } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { techniciansQuery } from '../swaps/queries'
import { useHandover } from './queries'

/** Passes one swap to a colleague, with what they must know. */
export function HandoverDialog({ seen, close }: { seen: SwapSeen; close: () => void }) {
  const technicians = useQuery(techniciansQuery(useRefresh().key))
  const handover = useHandover(seen.swap.id)
  const [to, setTo] = useState<string | null>(null)
  const [note, setNote] = useState('')
  const others = (technicians.data ?? []).filter((t) => t.key !== seen.swap.appointment?.technician)
  const looked = handover.data
  const change = (set: () => void) => {
    set()
    handover.reset()
  }
  const send = () =>
    handover.mutate({ to: to ?? '', note, dryRun: !looked }, { onSuccess: (passed) => (passed.done ? close() : undefined) })
  return (
    <FormDialog
      title={`Hand ${seen.swap.name} over`}
      close={close}
      change={handover}
      send={send}
      action={looked ? 'Hand it over' : 'See whose appointment changes'}
      ready={!!to && !!note.trim()}
    >
      <p className="soft">Its time stays as it is, with somebody who has nothing else then. Who did what until now stays visible.</p>
      <Select
        label="Who takes it?"
        data={others.map((t) => ({
          value: t.key,
          label: t.sites.includes(seen.swap.site) ? t.name : `${t.name}, not at ${seen.swap.site}`,
          disabled: !t.sites.includes(seen.swap.site),
        }))}
        value={to}
        onChange={(value) => change(() => setTo(value))}
        data-autofocus
        required
      />
      <Textarea
        label="What must they know?"
        value={note}
        onChange={(e) => {
          const { value } = e.currentTarget
          change(() => setNote(value))
        }}
        required
        maxLength={1000}
        autosize
        minRows={2}
      />
      {looked && (
        <ul className="rows" aria-label="Whose appointment changes">
          {looked.changes.map((words) => (
            <li key={words} className="plain">
              {words}
            </li>
          ))}
        </ul>
      )}
    </FormDialog>
  )
}
