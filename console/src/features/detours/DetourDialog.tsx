import { Button, Textarea } from '@mantine/core'
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
      {kind ? (
        <Chosen kind={kind} change={open.length > 1 ? () => set({ kind: null }) : undefined} />
      ) : (
        <Kinds open={open} choose={(chosen) => set({ kind: chosen, tag: '', exchange: false })} />
      )}
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
        <div role="status" className="follows" ref={intoView}>
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

// What follows is read before it is done, also where the dialog is longer than the screen.
const intoView = (shown: HTMLElement | null) => shown?.scrollIntoView?.({ block: 'start' })

function Kinds({ open, choose }: { open: Detour[]; choose: (kind: Detour) => void }) {
  return (
    <fieldset className="bare">
      <legend className="strong">What happened?</legend>
      <ul className="picks">
        {open.map((kind, i) => (
          <li key={kind}>
            <button type="button" onClick={() => choose(kind)} data-autofocus={i === 0 || undefined}>
              <strong>{detours[kind][0]}</strong>
              <span className="soft">{detours[kind][1]}</span>
            </button>
          </li>
        ))}
      </ul>
    </fieldset>
  )
}

/** What was chosen stays in sight, and the place of the others is free for what is asked about it. */
function Chosen({ kind, change }: { kind: Detour; change?: () => void }) {
  return (
    <div className="picked">
      <p>
        <strong>{detours[kind][0]}</strong>
        <br />
        <span className="soft">{detours[kind][1]}</span>
      </p>
      {change && (
        <Button variant="default" size="compact-sm" onClick={change} autoFocus>
          Something else…
        </Button>
      )}
    </div>
  )
}
