import { type KeyboardEvent, useCallback, useRef, useState } from 'react'
import type { Step, SwapSeen } from '../../api/client'
import { after, useOutbox, withWaiting } from '../../shared/outbox'
import { NewerVersion } from '../checklists/NewerVersion'
import { DataStep } from './DataStep'
import { useStep } from './queries'
import { SignOffs } from './SignOffs'
import { isOpen, StepDialog, type StepSaid } from './StepDialog'
import { type StepActs, StepRow } from './StepRow'

const phases: Record<string, string> = { before: 'Before', swap: 'Swap', after: 'After', 'hand-in': 'Hand-in' }

/** The checklist to work: arrows choose a step, Enter works it, N says it does not apply. */
export function ChecklistCard({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const kept = withWaiting(seen.checklist, seen.swap.id, useOutbox())
  const open = useRef(false)
  const claim = useStep(seen.swap.id, () => !open.current)
  const [asked, setAsked] = useState<{ step: Step; what: 'work' | 'reason' } | null>(null)
  open.current = asked !== null
  // A tap is answered at once; the service's word replaces it, and what it refuses is open again.
  const said = claim.isPending && !asked ? claim.variables : undefined
  const checklist = said
    ? {
        ...kept,
        steps: kept.steps.map((s) => (s.key === said.step.key ? after(s, { change: said.change, doneAt: claim.submittedAt }, '…') : s)),
      }
    : kept
  const list = useRef<HTMLDivElement>(null)
  // Of the facts that the system waits for, the first is the one to work on.
  const running = checklist.steps.find((s) => s.fact && isOpen(s))?.key
  const done = checklist.steps.filter((s) => !isOpen(s)).length
  const set = (step: Step, change: StepSaid, after?: () => void) =>
    claim.mutate({ step, version: checklist.version, change }, { onSuccess: after })
  const work = (step: Step) => {
    // Said once already, and on its way: what it stands at now is not yet what the service has.
    if (step.key === said?.step.key) return
    if (!works || !isOpen(step) || step.kind === 'automatic' || checklist.frozen.includes(step.phase)) return
    if (step.kind === 'tick' || step.kind === 'confirmation') set(step, { claim: 'ticked' })
    else if (step.kind === 'timed' || step.kind === 'restart') set(step, { claim: step.state === 'open' ? 'started' : 'ticked' })
    else setAsked({ step, what: 'work' })
  }
  const acts = useRef<StepActs | null>(null)
  acts.current = { work, inapplicable: (step) => setAsked({ step, what: 'reason' }), reopen: (step) => set(step, { claim: 'reopened' }) }
  // The same for every row and for ever, so that a tap draws its own row anew and no other.
  const act = useCallback((what: keyof StepActs, step: Step) => acts.current?.[what](step), [])
  const onKey = (event: KeyboardEvent) => {
    const buttons = [...(list.current?.querySelectorAll<HTMLElement>('[data-step]') ?? [])]
    const at = buttons.indexOf(document.activeElement as HTMLElement)
    const move = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (move && at >= 0) {
      event.preventDefault()
      buttons[Math.max(0, Math.min(buttons.length - 1, at + move))]?.focus()
    }
    const step = checklist.steps.find((s) => s.key === buttons[at]?.dataset.step)
    if (event.key.toLowerCase() === 'n' && !event.ctrlKey && step && step.kind !== 'automatic' && isOpen(step) && works && !asked) {
      event.preventDefault()
      setAsked({ step, what: 'reason' })
    }
  }
  return (
    <section className="card checklist" aria-labelledby="checklist" onKeyDown={onKey}>
      <div className="card-head">
        <h2 id="checklist">Checklist</h2>
        <span className="soft">
          {checklist.template}, version {checklist.templateVersion} · {done} of {checklist.steps.length}
        </span>
      </div>
      <NewerVersion seen={seen} works={works} />
      <div ref={list}>
        {Object.entries(phases).map(([phase, title]) => {
          const steps = checklist.steps.filter((s) => s.phase === phase)
          if (steps.length === 0) return null
          const frozen = checklist.frozen.includes(phase)
          return (
            <div key={phase}>
              <h3>
                {title} · {steps.filter((s) => !isOpen(s)).length} of {steps.length}
                {frozen ? ' · signed off' : ''}
              </h3>
              <ul className="rows">
                {steps.map((step) => (
                  <StepRow key={step.key} swap={seen.swap.id} step={step} works={works && !frozen} act={act}>
                    {step.fact && isOpen(step) && step.key === running && <DataStep step={step} seen={seen} works={works && !frozen} />}
                  </StepRow>
                ))}
              </ul>
            </div>
          )
        })}
      </div>
      <SignOffs seen={seen} works={works} leads={leads} />
      {asked && (
        <StepDialog
          key={asked.step.key}
          asked={asked}
          claim={claim}
          close={() => {
            claim.reset()
            setAsked(null)
          }}
          set={(change) => set(asked.step, change, () => setAsked(null))}
        />
      )}
    </section>
  )
}
