import { MultiSelect, Textarea } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { techniciansQuery } from '../swaps/queries'
import { useDayHandover } from './queries'

/** "I must go: all of mine to colleagues." What would become of each swap is shown before anything is changed. */
export function DayHandoverDialog({ technician, close }: { technician: string; close: () => void }) {
  const refresh = useRefresh()
  const technicians = useQuery(techniciansQuery(refresh.key))
  const handover = useDayHandover(refresh.key, technician)
  const [to, setTo] = useState<string[]>([])
  const [note, setNote] = useState('')
  const looked = handover.data
  const change = (set: () => void) => {
    set()
    handover.reset()
  }
  const send = () =>
    handover.mutate(
      { to, note, dryRun: !looked },
      {
        onSuccess: (seen) => {
          if (!seen.done) return
          const left = seen.swaps.filter((s) => !s.to)
          notifications.show({
            color: left.length > 0 ? 'yellow' : undefined,
            title: `${seen.name}'s day is handed over`,
            message:
              left.length === 0
                ? `${seen.swaps.length} of ${seen.swaps.length} swaps are in other hands.`
                : `Nobody has ${left.map((s) => s.name).join(', ')} yet: they stand under Today.`,
            autoClose: 12_000,
          })
          close()
        },
      },
    )
  return (
    <FormDialog
      title={`Hand over the rest of ${technicians.data?.find((t) => t.key === technician)?.name ?? technician}'s day`}
      close={close}
      change={handover}
      send={send}
      action={looked ? 'Hand it over' : 'See what would become of each'}
      ready={to.length > 0 && !!note.trim()}
    >
      <MultiSelect
        label="Who takes over?"
        data={(technicians.data ?? []).filter((t) => t.key !== technician).map((t) => ({ value: t.key, label: t.name }))}
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
        <ul className="rows" aria-label="What becomes of each swap">
          {looked.swaps.map((line) => (
            <li key={line.swap} className="plain">
              <span className={line.to ? 'sign-done' : 'sign-wants'} aria-hidden="true">
                {line.to ? '✓' : '▲'}
              </span>{' '}
              <strong>{line.name}</strong> <span className="soft">{line.words}</span>
            </li>
          ))}
        </ul>
      )}
    </FormDialog>
  )
}
