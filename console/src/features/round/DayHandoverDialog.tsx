import { Button, Modal, MultiSelect, Textarea } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { techniciansQuery } from '../swaps/queries'
import { WhoHears } from '../told/WhoHears'
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
  const send = () => handover.mutate({ to, note, dryRun: !looked })
  if (looked?.done)
    return (
      <Modal opened onClose={close} title={`${looked.name}'s day is handed over`} size="lg">
        <div className="stack">
          <Becomes lines={looked.swaps} />
          <WhoHears refresh={refresh.key} />
          <div className="actions">
            <Button onClick={close} data-autofocus>
              Close
            </Button>
          </div>
        </div>
      </Modal>
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
      {looked && <Becomes lines={looked.swaps} />}
    </FormDialog>
  )
}

function Becomes({ lines }: { lines: Schemas['DayHandoverLine'][] }) {
  return (
    <ul className="rows" aria-label="What becomes of each swap">
      {lines.map((line) => (
        <li key={line.swap} className="plain">
          <span className={line.to ? 'sign-done' : 'sign-wants'} aria-hidden="true">
            {line.to ? '✓' : '▲'}
          </span>{' '}
          <strong>{line.name}</strong> <span className="soft">{line.words}</span>
        </li>
      ))}
    </ul>
  )
}
