import { NativeSelect } from '@mantine/core'
import { StepRow } from '../swap/StepRow'
import type { Kind, Preview } from './queries'
import { optionsOf, phaseWords, swapWords } from './words'

const nothing = () => undefined

/** How the checklist looks to who works it, for one kind of swap. */
export function Look({ shown, isBusy, setKind }: { shown?: Preview; isBusy: boolean; setKind: (kind: Kind) => void }) {
  const faulty = (shown?.faults.length ?? 0) > 0
  const kinds = optionsOf(swapWords).filter((k) => !shown?.kinds.length || shown.kinds.includes(k.value as Kind))
  return (
    <section className="card checklist" aria-labelledby="look" aria-busy={isBusy}>
      <div className="card-head">
        <h2 id="look">How it looks</h2>
        <NativeSelect
          aria-label="Kind of swap"
          size="xs"
          value={shown?.kind ?? 'renew'}
          onChange={(e) => setKind(e.currentTarget.value as Kind)}
          data={kinds}
        />
      </div>
      {shown && !faulty ? (
        Object.entries(phaseWords).map(([phase, title]) => <PhaseOf key={phase} shown={shown} phase={phase} title={title} />)
      ) : (
        <p className="soft">{faulty ? 'It has faults; this comes back as soon as they are gone.' : 'Comes in a moment.'}</p>
      )}
    </section>
  )
}

function PhaseOf({ shown, phase, title }: { shown: Preview; phase: string; title: string }) {
  const steps = shown.steps.filter((s) => s.phase === phase)
  if (steps.length === 0) return null
  return (
    <div>
      <h3>
        {title} · {steps.length}
      </h3>
      <ul className="rows">
        {steps.map((step) => (
          <StepRow
            swap=""
            key={step.key}
            step={shown.conditions[step.key] ? { ...step, reason: `only ${shown.conditions[step.key]}` } : step}
            works={false}
            act={nothing}
          />
        ))}
      </ul>
    </div>
  )
}
