import { Menu } from '@mantine/core'
import { memo, type ReactNode, useState } from 'react'
import type { Step } from '../../api/client'
import { ageText } from '../../shared/amounts'
import { notSent } from '../../shared/outbox'
import { Prose } from '../../shared/Prose'
import { useClock } from '../../shared/zone'
import { isOpen } from './StepDialog'

const waits: [string, string, string] = ['○', 'open', 'ahead']
const shapes: Record<string, [string, string, string]> = {
  open: waits,
  'under-way': ['▸', 'under way', 'moving'],
  done: ['✓', 'done', 'done'],
  'not-applicable': ['–', 'does not apply', 'ahead'],
}

type Props = {
  swap: string
  step: Step
  works: boolean
  act: (what: keyof StepActs, step: Step) => void
  children?: ReactNode
}

/** What can be done about a step. */
export type StepActs = Record<'work' | 'inapplicable' | 'reopen', (step: Step) => void>

/** One step: what it is, how it stands, and what was said about it. */
export const StepRow = memo(function StepRow({ swap, step, works, act, children }: Props) {
  const [helps, setHelps] = useState(false)
  const [shape, said, sign] = shapes[step.state] ?? waits
  const automatic = step.kind === 'automatic'
  return (
    <li className={`step step-${step.state}`}>
      <div className="step-body">
        <button
          type="button"
          data-step={step.key}
          className="step-main"
          onClick={() => act('work', step)}
          aria-disabled={!works || !isOpen(step) || automatic}
          title={automatic ? 'The system checks this itself.' : 'Enter works this step; N: it does not apply'}
        >
          <span className={`sign sign-${sign}`} aria-hidden="true">
            {shape}
          </span>
          <span className="unseen">{said}: </span>
          <span className="step-title">
            {step.title}
            {step.value && step.kind !== 'photo' ? (
              <strong className="step-value">
                {step.value} {step.unit}
              </strong>
            ) : null}
            {step.reason ? <span className="soft"> ({step.reason})</span> : null}
            {step.by === notSent ? <strong className="unsent"> not sent yet</strong> : null}
          </span>
          <span className="soft step-by">
            <By step={step} />
          </span>
        </button>
        {step.kind === 'photo' && step.value && step.by !== notSent && (
          <a className="step-photo" href={`/api/swaps/${swap}/photos/${step.value}`} target="_blank" rel="noreferrer">
            <img src={`/api/swaps/${swap}/photos/${step.value}`} alt={`Taken for: ${step.title}`} loading="lazy" />
          </a>
        )}
        {helps && step.help && <Prose text={step.help} />}
        {children}
      </div>
      {step.help && (
        <button type="button" className="more" aria-expanded={helps} aria-label={`How to: ${step.title}`} onClick={() => setHelps(!helps)}>
          ?
        </button>
      )}
      {works && !automatic && <More step={step} act={act} />}
    </li>
  )
})

/** Rarely wanted: made when it is asked for first, since a checklist has thirty of it. */
function More({ step, act }: Pick<Props, 'step' | 'act'>) {
  const [opened, setOpened] = useState<boolean | null>(null)
  const dots = (
    <button
      type="button"
      className="more"
      aria-label={`More for: ${step.title}`}
      aria-haspopup="menu"
      onClick={opened === null ? () => setOpened(true) : undefined}
    >
      ⋯
    </button>
  )
  if (opened === null) return dots
  return (
    <Menu position="bottom-end" opened={opened} onChange={setOpened}>
      <Menu.Target>{dots}</Menu.Target>
      <Menu.Dropdown>
        {isOpen(step) && <Menu.Item onClick={() => act('inapplicable', step)}>Does not apply…</Menu.Item>}
        {step.state !== 'open' && <Menu.Item onClick={() => act('reopen', step)}>Open again</Menu.Item>}
      </Menu.Dropdown>
    </Menu>
  )
}

const hints: Record<string, string> = {
  automatic: 'by itself',
  confirmation: 'ask the person',
  timed: 'start',
  restart: 'restart',
  again: 'repeat',
  photo: 'take a photo',
}

function By({ step }: { step: Step }) {
  const clock = useClock()
  if (step.state === 'open') {
    if (step.kind === 'scan' || (step.kind === 'automatic' && step.expects)) return step.expects ?? ''
    if (step.kind === 'choice') return `${step.options?.length ?? 0} answers`
    if (step.kind === 'number') return step.unit || 'number'
    return hints[step.kind] ?? ''
  }
  if (step.state === 'under-way') {
    if (step.runs > 0) return `${step.runs === 1 ? '1 run' : `${step.runs} runs`}, not yet`
    return `since ${step.startedAt ? clock.time(step.startedAt) : ''}, end it`
  }
  const who = step.by === 'the system' ? 'by itself' : step.by === notSent ? 'you' : step.by
  const took =
    step.runs > 0
      ? `${step.runs === 1 ? '1 run' : `${step.runs} runs`} · `
      : step.startedAt && step.at
        ? `${ageText((Date.parse(step.at) - Date.parse(step.startedAt)) / 1000)} · `
        : ''
  return `${took}${who} · ${step.at ? clock.short(step.at) : ''}`
}
