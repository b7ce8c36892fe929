import { Checkbox, NumberInput, Radio, Select, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { ScanField } from '../swap/ScanField'
import { type Detour, type DetourTold, sparesQuery, useDetour } from './queries'

/** What happened, in the words of whoever stands at the desk, and what it leads to. */
export const detours: Record<Detour, [what: string, leads: string]> = {
  noShow: ['Nobody is there', 'The time is free again, and another one is found.'],
  late: ['They come later', 'A later time that day, without moving anybody else.'],
  personGone: ['They do not come any more', 'Somebody else receives the files, or the swap is called off.'],
  wrongComputer: ['Another new computer was delivered', 'It is exchanged or taken; what was prepared is prepared again.'],
  deadOnArrival: ['The new computer does not work', 'A spare takes its place.'],
  oldDiskDied: ['The old disk died', 'The swap goes on from the last good trip, and says what is missing.'],
  calledOff: ['Call the swap off', 'It waits for nothing any more; what was carried is held.'],
  resumed: ['It takes place after all', 'The next plan finds it a time.'],
}

const decides: Detour[] = ['personGone', 'calledOff', 'resumed']
const needsReason: Detour[] = ['personGone', 'deadOnArrival', 'calledOff']

/** Something goes otherwise than planned: what follows is shown before anything is changed. */
export function DetourDialog({ seen, leads, close }: { seen: SwapSeen; leads: boolean; close: () => void }) {
  const open = (seen.mayDetour ?? []).filter((kind) => leads || !decides.includes(kind))
  const detour = useDetour(seen.swap.id)
  const spares = useQuery(sparesQuery(useRefresh().key))
  const [kind, setKind] = useState<Detour | null>(open.length === 1 ? (open[0] ?? null) : null)
  const [reason, setReason] = useState('')
  const [minutes, setMinutes] = useState<number | string>(30)
  const [tag, setTag] = useState('')
  const [exchange, setExchange] = useState(false)
  const [soonest, setSoonest] = useState(true)
  const [receiver, setReceiver] = useState('')
  const looked = detour.data
  const change = <T,>(set: (value: T) => void) => {
    return (value: T) => {
      set(value)
      detour.reset()
    }
  }
  const given = (spares.data ?? []).filter((s) => !s.trouble)
  const told = (dryRun: boolean): DetourTold => ({
    kind: kind ?? 'noShow',
    dryRun,
    reason: reason.trim() || null,
    minutes: kind === 'late' ? Number(minutes) : null,
    tag: kind === 'wrongComputer' || kind === 'deadOnArrival' ? tag.trim() || null : null,
    exchange: kind === 'wrongComputer' ? exchange : null,
    soonest: kind === 'noShow' ? soonest : null,
    receiver: kind === 'personGone' ? receiver.trim() || null : null,
  })
  const ready =
    !!kind &&
    (!needsReason.includes(kind) || !!reason.trim()) &&
    (kind !== 'wrongComputer' || !!tag.trim()) &&
    (kind !== 'late' || Number(minutes) >= 5)
  return (
    <FormDialog
      title={`${seen.swap.name}: something goes otherwise`}
      close={close}
      change={detour}
      send={() => detour.mutate(told(!looked), { onSuccess: (taken) => (taken.done ? close() : undefined) })}
      action={looked ? 'Do it' : 'See what follows'}
      ready={ready}
    >
      <Radio.Group label="What happened?" value={kind} onChange={change((value: string) => setKind(value as Detour))}>
        <div className="stack tight">
          {open.map((k, i) => (
            <Radio key={k} value={k} label={detours[k][0]} description={detours[k][1]} data-autofocus={i === 0 || undefined} />
          ))}
        </div>
      </Radio.Group>
      {kind === 'late' && (
        <NumberInput label="How late at least, in minutes" min={5} max={600} step={5} value={minutes} onChange={change(setMinutes)} />
      )}
      {kind === 'noShow' && (
        <Checkbox
          label="Promise the first other time that fits, from tomorrow on"
          description="Otherwise the next plan finds one."
          checked={soonest}
          onChange={(e) => change(setSoonest)(e.currentTarget.checked)}
        />
      )}
      {kind === 'wrongComputer' && (
        <>
          <ScanField label="Tag of the computer that came" value={tag} onChange={change(setTag)} />
          <Checkbox
            label="It is meant for somebody else: each gets the other's"
            checked={exchange}
            onChange={(e) => change(setExchange)(e.currentTarget.checked)}
          />
        </>
      )}
      {kind === 'deadOnArrival' && (
        <Select
          label="Which spare takes its place?"
          placeholder={given.length ? 'One of the same model, best from here' : 'There is no spare that can be given out'}
          data={given.map((s) => ({ value: s.key, label: `${s.key}${s.model ? ` · ${s.model}` : ''} · ${s.site}` }))}
          value={tag || null}
          onChange={(value) => change(setTag)(value ?? '')}
          clearable
        />
      )}
      {kind === 'personGone' && (
        <TextInput
          label="Who receives the files?"
          description="Key of a person in the roster. Left empty: the swap is called off."
          value={receiver}
          onChange={(e) => change(setReceiver)(e.currentTarget.value)}
        />
      )}
      {kind && kind !== 'resumed' && (
        <Textarea
          label={needsReason.includes(kind) ? 'Why?' : 'What is there to say about it?'}
          required={needsReason.includes(kind)}
          value={reason}
          onChange={(e) => change(setReason)(e.currentTarget.value)}
          maxLength={500}
          autosize
          minRows={1}
        />
      )}
      {looked && (
        <div role="status">
          <p className="strong">{looked.words}.</p>
          <ul className="rows" aria-label="What follows">
            {looked.lines.map((line) => (
              <li key={line} className="plain">
                {line}
              </li>
            ))}
          </ul>
        </div>
      )}
    </FormDialog>
  )
}
