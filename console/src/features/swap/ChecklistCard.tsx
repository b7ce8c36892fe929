import { Button, Menu, Modal, Textarea, TextInput } from '@mantine/core'
import { type FormEvent, type KeyboardEvent, useRef, useState } from 'react'
import type { Step, SwapSeen } from '../../api/client'
import { useClock } from '../../shared/zone'
import { useSignOff, useStep } from './queries'

const phases: Record<string, string> = { before: 'Before', swap: 'Swap', after: 'After', 'hand-in': 'Hand-in' }

/** The checklist to work: arrows choose a step, Enter works it, N says it does not apply. */
export function ChecklistCard({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const { checklist } = seen
  const claim = useStep(seen.swap.id)
  const [asked, setAsked] = useState<{ step: Step; what: 'scan' | 'reason' } | null>(null)
  const list = useRef<HTMLDivElement>(null)
  const done = checklist.steps.filter((s) => s.state !== 'open').length
  const set = (step: Step, change: { claim: string; tag?: string; reason?: string }, after?: () => void) =>
    claim.mutate({ step, version: checklist.version, change: { tag: null, reason: null, ...change } }, { onSuccess: after })
  const work = (step: Step) => {
    if (!works || step.state !== 'open' || step.kind === 'automatic' || checklist.frozen.includes(step.phase)) return
    if (step.kind === 'scan') setAsked({ step, what: 'scan' })
    else set(step, { claim: 'ticked' })
  }
  const onKey = (event: KeyboardEvent) => {
    const buttons = [...(list.current?.querySelectorAll<HTMLElement>('[data-step]') ?? [])]
    const at = buttons.indexOf(document.activeElement as HTMLElement)
    const move = { ArrowDown: 1, ArrowUp: -1 }[event.key]
    if (move && at >= 0) {
      event.preventDefault()
      buttons[Math.max(0, Math.min(buttons.length - 1, at + move))]?.focus()
    }
    const step = checklist.steps.find((s) => s.key === buttons[at]?.dataset.step)
    if (
      event.key.toLowerCase() === 'n' &&
      !event.ctrlKey &&
      step &&
      step.kind !== 'automatic' &&
      step.state === 'open' &&
      works &&
      !asked
    ) {
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
      <div ref={list}>
        {Object.entries(phases).map(([phase, title]) => {
          const steps = checklist.steps.filter((s) => s.phase === phase)
          if (steps.length === 0) return null
          const frozen = checklist.frozen.includes(phase)
          return (
            <div key={phase}>
              <h3>
                {title} · {steps.filter((s) => s.state !== 'open').length} of {steps.length}
                {frozen ? ' · signed off' : ''}
              </h3>
              <ul className="rows">
                {steps.map((step) => (
                  <StepRow
                    key={step.key}
                    step={step}
                    works={works && !frozen}
                    work={() => work(step)}
                    inapplicable={() => setAsked({ step, what: 'reason' })}
                    reopen={() => set(step, { claim: 'reopened' })}
                  />
                ))}
              </ul>
            </div>
          )
        })}
      </div>
      <SignOffs seen={seen} works={works} leads={leads} />
      {asked && (
        <Ask
          key={asked.step.key}
          asked={asked}
          busy={claim.isPending}
          error={claim.error instanceof Error ? claim.error.message : undefined}
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

function StepRow({
  step,
  works,
  work,
  inapplicable,
  reopen,
}: {
  step: Step
  works: boolean
  work: () => void
  inapplicable: () => void
  reopen: () => void
}) {
  const clock = useClock()
  const shape = step.state === 'done' ? '✓' : step.state === 'not-applicable' ? '–' : '○'
  const said = step.state === 'done' ? 'done' : step.state === 'not-applicable' ? 'does not apply' : 'open'
  const by = step.by
    ? `${step.by === 'the system' ? 'by itself' : step.by} · ${step.at ? clock.short(step.at) : ''}`
    : step.kind === 'automatic'
      ? 'by itself'
      : step.kind === 'scan'
        ? (step.expects ?? '')
        : ''
  return (
    <li className={`step step-${step.state}`}>
      <button
        type="button"
        data-step={step.key}
        className="step-main"
        onClick={work}
        aria-disabled={!works || step.state !== 'open' || step.kind === 'automatic'}
        title={step.help || (step.kind === 'automatic' ? 'The system checks this itself.' : 'Enter works this step; N: it does not apply')}
      >
        <span className={`sign sign-${step.state === 'done' ? 'done' : 'ahead'}`} aria-hidden="true">
          {shape}
        </span>
        <span className="unseen">{said}: </span>
        <span className="step-title">
          {step.title}
          {step.reason ? <span className="soft"> ({step.reason})</span> : null}
        </span>
        <span className="soft step-by">{by}</span>
      </button>
      {works && step.kind !== 'automatic' && (
        <Menu position="bottom-end">
          <Menu.Target>
            <button type="button" className="more" aria-label={`More for: ${step.title}`}>
              ⋯
            </button>
          </Menu.Target>
          <Menu.Dropdown>
            {step.state === 'open' ? (
              <Menu.Item onClick={inapplicable}>Does not apply…</Menu.Item>
            ) : (
              <Menu.Item onClick={reopen}>Open again</Menu.Item>
            )}
          </Menu.Dropdown>
        </Menu>
      )}
    </li>
  )
}

function Ask({
  asked,
  busy,
  error,
  close,
  set,
}: {
  asked: { step: Step; what: 'scan' | 'reason' }
  busy: boolean
  error?: string
  close: () => void
  set: (change: { claim: string; tag?: string; reason?: string }) => void
}) {
  const [text, setText] = useState('')
  const scan = asked.what === 'scan'
  const submit = (event: FormEvent) => {
    event.preventDefault()
    set(scan ? { claim: 'scanned', tag: text } : { claim: 'not-applicable', reason: text })
  }
  return (
    <Modal opened onClose={close} title={asked.step.title} centered>
      <form onSubmit={submit} className="stack">
        {asked.step.help && <p className="soft">{asked.step.help}</p>}
        {scan ? (
          <TextInput
            label="Tag on the computer"
            description={`Expected: ${asked.step.expects ?? 'not known'}. Scan it, or type it.`}
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
            data-autofocus
            required
            autoComplete="off"
            className="mono"
          />
        ) : (
          <Textarea
            label="Why does it not apply?"
            value={text}
            onChange={(e) => setText(e.currentTarget.value)}
            data-autofocus
            required
            maxLength={500}
            autosize
            minRows={2}
          />
        )}
        {error && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {error}
          </p>
        )}
        <div className="actions">
          <Button variant="default" onClick={close}>
            Cancel
          </Button>
          <Button type="submit" loading={busy} disabled={!text.trim()}>
            {scan ? 'Check the tag' : 'Does not apply'}
          </Button>
        </div>
      </form>
    </Modal>
  )
}

function SignOffs({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const sign = useSignOff(seen.swap.id)
  const clock = useClock()
  return (
    <div className="sign-offs">
      {seen.signOffs.map((part) => {
        const who = part.part === 'technician' ? 'Technician' : 'Coordinator'
        if (part.by)
          return (
            <p key={part.part}>
              <span className="sign-done" aria-hidden="true">
                ✓
              </span>{' '}
              <strong>{who} signed off:</strong>{' '}
              <span className="soft">
                {part.by}
                {part.at ? `, ${clock.full(part.at)}` : ''}
              </span>
            </p>
          )
        const technicianFirst = part.part === 'coordinator' && seen.signOffs.some((s) => s.part === 'technician' && !s.by)
        if (technicianFirst) return null
        if (part.missing.length > 0)
          return (
            <div key={part.part}>
              <p>
                <strong>{part.part === 'technician' ? 'Cannot be signed off yet:' : 'The coordinator cannot sign yet:'}</strong>
              </p>
              <ul className="missing soft">
                {part.missing.map((m) => (
                  <li key={m}>{m}</li>
                ))}
              </ul>
            </div>
          )
        return works && (part.part === 'technician' || leads) ? (
          <Button key={part.part} fullWidth loading={sign.isPending} onClick={() => sign.mutate(part.part)}>
            Sign off as {who.toLowerCase()}
          </Button>
        ) : (
          <p key={part.part} className="soft">
            {who} can sign off now.
          </p>
        )
      })}
    </div>
  )
}
