import { Select, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { dayOf, instantAt, wallTime } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery } from '../session/queries'
import { techniciansQuery } from '../swaps/queries'
import { type FollowUp, holdChoices, useChangeFollowUp } from './queries'

/** Other words, another owner, another time, another hold. */
export function ChangeDialog({ f, close }: { f: FollowUp; close: () => void }) {
  const change = useChangeFollowUp()
  const clock = useClock()
  const me = useQuery(meQuery)
  const technicians = useQuery(techniciansQuery(useRefresh().key))
  const wasDue = `${dayOf(f.due, clock.zone)}T${wallTime(f.due, clock.zone)}`
  const [words, setWords] = useState(f.words)
  const [owner, setOwner] = useState<string | null>(f.owner)
  const [due, setDue] = useState(wasDue)
  const [holds, setHolds] = useState<Schemas['FollowUpHold']>(f.holds)
  const who = new Map([[f.owner, f.ownerName]])
  if (me.data) who.set(me.data.name, `${me.data.shown} (you)`)
  for (const t of technicians.data ?? []) if (!who.has(t.key)) who.set(t.key, t.name)
  return (
    <FormDialog
      title="Change this follow-up"
      close={close}
      change={change}
      send={() =>
        change.mutate(
          {
            id: f.id,
            body: {
              words: words.trim(),
              owner,
              // To the minute: a time that was not touched stays to the second.
              due: due === wasDue ? null : instantAt(due, clock.zone),
              holds,
            },
          },
          { onSuccess: close },
        )
      }
      action="Keep it so"
      ready={!!words.trim() && !!due}
    >
      <Textarea
        label="What is to be done?"
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
        required
        maxLength={500}
        autosize
      />
      <Select
        label="Who does it?"
        data={[...who].map(([value, label]) => ({ value, label }))}
        value={owner}
        onChange={setOwner}
        allowDeselect={false}
      />
      <TextInput type="datetime-local" label="Until when?" value={due} onChange={(e) => setDue(e.currentTarget.value)} required />
      <Select
        label="What does it hold up?"
        data={holdChoices}
        value={holds}
        onChange={(value) => setHolds((value ?? 'nothing') as Schemas['FollowUpHold'])}
        allowDeselect={false}
      />
    </FormDialog>
  )
}
