import { Button, NativeSelect, Textarea } from '@mantine/core'
import { useDebouncedValue, useLocalStorage } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { meQuery } from '../session/queries'
import { StepRow } from '../swap/StepRow'
import { type Kind, previewQuery, templatesQuery, useAddTemplate } from './queries'

const kinds: Kind[] = ['renew', 'second', 'reimage', 'rescue', 'leave', 'issue']
const phases: [string, string][] = [
  ['before', 'Before'],
  ['swap', 'Swap'],
  ['after', 'After'],
  ['hand-in', 'Hand-in'],
]

/** Checklist templates: read, changed as text with the checklist beside it, kept as a new version. */
export function ChecklistsPage() {
  const refresh = useRefresh().key
  const templates = useQuery(templatesQuery(refresh))
  const [chosen, setChosen] = useState('')
  if (templates.isPending) return <Coming rows={8} />
  if (templates.isError) return <Failed error={templates.error} retry={() => templates.refetch()} />
  const at = templates.data.findIndex((t) => `${t.name}/${t.version}` === chosen)
  const template = templates.data[Math.max(0, at)]
  return (
    <>
      <header className="head">
        <div>
          <h1>Checklists</h1>
          <p className="soft">
            A swap keeps the version that it began with. A change here is a new version; each swap is asked before it moves.
          </p>
        </div>
        <NativeSelect
          label="Checklist"
          value={template ? `${template.name}/${template.version}` : ''}
          onChange={(e) => setChosen(e.currentTarget.value)}
          data={templates.data.map((t) => ({ value: `${t.name}/${t.version}`, label: `${t.name}, version ${t.version}` }))}
        />
      </header>
      {template && (
        <Editor
          key={`${template.name}/${template.version}`}
          refresh={refresh}
          template={template}
          kept={(t) => setChosen(`${t.name}/${t.version}`)}
        />
      )}
    </>
  )
}

type Template = Schemas['TemplateSeen']

function Editor({ refresh, template, kept }: { refresh: string; template: Template; kept: (template: Template) => void }) {
  const clock = useClock()
  const me = useQuery(meQuery)
  const leads = me.data?.role === 'coordinator'
  // What is typed and not kept yet outlives the page.
  const [draft, setDraft, forget] = useLocalStorage<string | null>({
    key: `yard.checklist.${refresh}.${template.name}.${template.version}`,
    defaultValue: null,
  })
  const yaml = draft ?? template.yaml
  const [settled] = useDebouncedValue(yaml, 300)
  const [kind, setKind] = useState<Kind | null>(null)
  const preview = useQuery(previewQuery(refresh, settled, kind))
  const add = useAddTemplate(refresh)
  const changed = draft !== null && draft !== template.yaml
  const problems = preview.data?.problems ?? []
  const shown = preview.data
  return (
    <div className="columns checklist-columns">
      <section className="card" aria-labelledby="text">
        <div className="card-head">
          <h2 id="text">Text</h2>
          <span className="soft">
            {template.steps} steps · kept {clock.full(template.at)}
            {changed ? ' · changed, not kept yet' : ''}
          </span>
        </div>
        <Textarea
          aria-label="Checklist as YAML"
          value={yaml}
          onChange={(e) => setDraft(e.currentTarget.value)}
          readOnly={!leads}
          autosize
          minRows={18}
          maxRows={34}
          spellCheck={false}
          classNames={{ input: 'mono yaml' }}
          error={problems.length > 0}
        />
        {problems.length > 0 && (
          <ul className="missing problem" role="status">
            {problems.map((p) => (
              <li key={p}>{p}</li>
            ))}
          </ul>
        )}
        {add.isError && <Failed error={add.error} />}
        {leads && (
          <div className="actions">
            <Button variant="default" disabled={!changed} onClick={() => forget()}>
              Throw changes away
            </Button>
            <Button
              disabled={!changed || problems.length > 0 || settled !== yaml}
              loading={add.isPending}
              onClick={() =>
                add.mutate(yaml, {
                  onSuccess: (seen) => {
                    forget()
                    kept(seen)
                  },
                })
              }
            >
              Keep as a new version
            </Button>
          </div>
        )}
      </section>
      <section className="card checklist" aria-labelledby="look" aria-busy={preview.isFetching}>
        <div className="card-head">
          <h2 id="look">How it looks</h2>
          <NativeSelect
            aria-label="Kind of swap"
            size="xs"
            value={kind ?? shown?.kind ?? 'renew'}
            onChange={(e) => setKind(e.currentTarget.value as Kind)}
            data={shown?.kinds.length ? shown.kinds : kinds}
          />
        </div>
        {shown && problems.length === 0 ? (
          phases.map(([phase, title]) => {
            const steps = shown.steps.filter((s) => s.phase === phase)
            return steps.length === 0 ? null : (
              <div key={phase}>
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
          })
        ) : (
          <p className="soft">
            {problems.length > 0 ? 'The text has faults; the checklist comes back as soon as they are gone.' : 'Comes in a moment.'}
          </p>
        )}
      </section>
    </div>
  )
}

const nothing = () => undefined
