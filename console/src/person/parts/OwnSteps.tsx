import { type Page, setStep, useChange, usePending } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'

/** What is theirs to do. The last of it is the word that they are ready. */
export function OwnSteps({ page }: { page: Page }) {
  const { w, language, told } = useVoice()
  const change = useChange(setStep, 'step')
  const pending = usePending<Parameters<typeof setStep>[0]>('step')
  const before = page.steps.filter((s) => s.phase === 'before')
  const isReady = before.length > 0 && before.every((s) => s.state === 'done' || s.state === 'not-applicable')
  return (
    <Card title={w.own.title}>
      <ul className="own">
        {page.steps.map((step) => {
          const done = step.state === 'done' || step.state === 'not-applicable'
          const shown = pending.findLast((p) => p.step === step.key)?.done ?? done
          return (
            <li key={step.key}>
              <label>
                <input type="checkbox" checked={shown} onChange={(e) => change.mutate({ step: step.key, done: e.currentTarget.checked })} />
                <span lang={w.own.steps[step.key] ? language : 'en'}>
                  {w.own.steps[step.key] ?? step.title}
                  {done && step.by && step.by !== page.name ? <span className="soft"> · {w.own.byOther(step.by)}</span> : null}
                </span>
              </label>
            </li>
          )
        })}
      </ul>
      {change.error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">■</span> {told(change.error)}
        </p>
      )}
      {isReady && (
        <p className="sign-done">
          <span aria-hidden="true">✓</span> {w.own.ready}
        </p>
      )}
    </Card>
  )
}
