import { Button, Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { bytesText, filesText } from '../../shared/amounts'
import { useRefusal } from '../follow-ups/queries'
import { FormDialog } from '../parcel/FormDialog'
import { Drawing } from './Drawing'
import { useSignOff } from './queries'

/** The person signs on the technician's device, or says what is missing. */
export function PersonSigns({ seen, part }: { seen: SwapSeen; part: Schemas['SignOffSeen'] }) {
  const [asks, setAsks] = useState<'sign' | 'refuse' | null>(null)
  return (
    <div className="actions">
      <Button variant="default" onClick={() => setAsks('sign')}>
        {seen.swap.name} signs…
      </Button>
      <button type="button" className="quiet" onClick={() => setAsks('refuse')}>
        Something is missing…
      </button>
      {asks === 'sign' && <SignDialog seen={seen} part={part} close={() => setAsks(null)} />}
      {asks === 'refuse' && <RefuseDialog seen={seen} close={() => setAsks(null)} />}
    </div>
  )
}

function SignDialog({ seen, part, close }: { seen: SwapSeen; part: Schemas['SignOffSeen']; close: () => void }) {
  const sign = useSignOff(seen.swap.id, false)
  const [name, setName] = useState('')
  const [path, setPath] = useState('')
  const t = seen.total
  const waived = t.waived.files + t.waivedAtNew.files
  return (
    <FormDialog
      title={`${seen.swap.name} signs`}
      close={close}
      change={sign}
      send={() => sign.mutate({ part: 'person', facts: part.facts ?? null, name, drawn: path || null }, { onSuccess: close })}
      action="Sign"
      ready={!!name.trim()}
    >
      <p>
        <strong>{part.statement}</strong>
      </p>
      <p className="soft">
        {filesText(t.onNew?.files ?? 0)} on the new computer ({bytesText(t.onNew?.bytes ?? 0)})
        {t.leftOut.files ? `, ${filesText(t.leftOut.files)} left out by a rule` : ''}
        {waived ? `, ${filesText(waived)} given up, each with a reason` : ''}.
      </p>
      <TextInput
        label="Your name"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        data-autofocus
        required
        autoComplete="off"
      />
      <div>
        <p className="soft">Draw your signature, if you like:</p>
        <Drawing path={path} change={setPath} />
      </div>
    </FormDialog>
  )
}

function RefuseDialog({ seen, close }: { seen: SwapSeen; close: () => void }) {
  const refusal = useRefusal(seen.swap.id)
  const [words, setWords] = useState('')
  return (
    <FormDialog
      title="Something is missing"
      close={close}
      change={refusal}
      send={() => refusal.mutate(words, { onSuccess: close })}
      action="Note it"
      ready={!!words.trim()}
    >
      <p className="soft">
        A follow-up is opened for the technician. Nothing is signed, and the old computer is not wiped, before it is settled.
      </p>
      <Textarea
        label={`What does ${seen.swap.name} miss?`}
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={400}
        autosize
        minRows={2}
      />
    </FormDialog>
  )
}
