import { Select, Textarea } from '@mantine/core'
import { notifications } from '@mantine/notifications'
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
  const send = () =>
    handover.mutate(
      { to: to ?? '', note },
      {
        onSuccess: (passed) => {
          for (const clash of passed.clashes)
            notifications.show({ color: 'yellow', title: 'At the same time', message: clash, autoClose: 12_000 })
          close()
        },
      },
    )
  return (
    <FormDialog
      title={`Hand ${seen.swap.name} over`}
      close={close}
      change={handover}
      send={send}
      action="Hand over"
      ready={!!to && !!note.trim()}
    >
      <p className="soft">Its time stays as it is. Who did what until now stays visible.</p>
      <Select
        label="Who takes it?"
        data={others.map((t) => ({
          value: t.key,
          label: t.sites.includes(seen.swap.site) ? t.name : `${t.name}, not at ${seen.swap.site}`,
          disabled: !t.sites.includes(seen.swap.site),
        }))}
        value={to}
        onChange={setTo}
        data-autofocus
        required
      />
      <Textarea
        label="What must they know?"
        value={note}
        onChange={(e) => setNote(e.currentTarget.value)}
        required
        maxLength={1000}
        autosize
        minRows={2}
      />
    </FormDialog>
  )
}
