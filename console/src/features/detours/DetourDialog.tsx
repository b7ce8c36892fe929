import { Radio, Textarea } from '@mantine/core'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { FormDialog } from '../parcel/FormDialog'
import { DetourFields } from './DetourFields'
import { type Detour, useDetour } from './queries'
import { type Draft, empty, isReady, toldOf } from './told'
import { decides, detours, inOrder, needsReason, reasonLabel } from './words'

/** Something goes otherwise than planned: what follows is shown before anything is changed. */
export function DetourDialog({ seen, leads, close }: { seen: SwapSeen; leads: boolean; close: () => void }) {
  const may = seen.mayDetour ?? []
  const open = inOrder.filter((kind) => may.includes(kind) && (leads || !decides.includes(kind)))
  const detour = useDetour(seen.swap.id)
  const [draft, setDraft] = useState<Draft>({ ...empty, kind: open.length === 1 ? (open[0] ?? null) : null })
  const looked = detour.data
  const set = (some: Partial<Draft>) => {
    setDraft((d) => ({ ...d, ...some }))
    detour.reset()
  }
  const { kind } = draft
  return (
    <FormDialog
      title={`${seen.swap.name}: something goes otherwise`}
      close={close}
      change={detour}
      send={() => detour.mutate(toldOf(draft, !looked), { onSuccess: (taken) => (taken.done ? close() : undefined) })}
      action={looked ? 'Do it' : 'See what follows'}
      ready={isReady(draft)}
    >
      <Radio.Group label="What happened?" value={kind} onChange={(value) => set({ kind: value as Detour, tag: '', exchange: false })}>
        <div className="stack tight">
          {open.map((k, i) => (
            <Radio key={k} value={k} label={detours[k][0]} description={detours[k][1]} data-autofocus={i === 0 || undefined} />
          ))}
        </div>
      </Radio.Group>
      <DetourFields draft={draft} set={set} swap={seen.swap.id} />
      {kind && kind !== 'resumed' && (
        <Textarea
          label={reasonLabel(kind)}
          required={needsReason.includes(kind)}
          value={draft.reason}
          onChange={(e) => set({ reason: e.currentTarget.value })}
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
