import { Button, MultiSelect, SegmentedControl, TextInput } from '@mantine/core'
import { useDebouncedValue, useLocalStorage } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useLeads } from '../session/queries'
import { Look } from './Look'
import { type Kind, previewQuery, type Template, useAddTemplate } from './queries'
import { StepCards } from './StepCards'
import { TextForm } from './TextForm'
import { readSheet, type Sheet, setHead } from './template'
import { optionsOf, swapWords } from './words'

const mostUndone = 100
const oneGo = 700

type Props = { refresh: string; template: Template; kept: (template: Template) => void }

/** A checklist as cards or as text, with how it looks beside it. */
export function Editor({ refresh, template, kept }: Props) {
  const clock = useClock()
  const leads = useLeads()
  const [view, setView] = useLocalStorage<'cards' | 'text'>({ key: 'yard.checklist.view', defaultValue: 'cards' })
  const draft = useDraft(refresh, template)
  const [settled] = useDebouncedValue(draft.text, 300)
  const [kind, setKind] = useState<Kind | null>(null)
  const preview = useQuery(previewQuery(refresh, settled, kind))
  const add = useAddTemplate(refresh)
  const sheet = readSheet(draft.text)
  // Faults of what was there a moment ago would stand at the wrong lines.
  const faults = settled === draft.text && !preview.isPlaceholderData ? (preview.data?.faults ?? []) : []
  const isNew = sheet !== null && sheet.name !== template.name
  const keep = () =>
    add.mutate(
      { yaml: draft.text, since: isNew ? null : template.version },
      {
        onSuccess: (seen) => {
          draft.forget()
          kept(seen)
        },
      },
    )
  return (
    <div className="columns checklist-columns">
      <section className="card" aria-labelledby="steps">
        <div className="card-head">
          <h2 id="steps">Steps</h2>
          <SegmentedControl
            size="xs"
            aria-label="How the checklist is edited"
            data={[
              { value: 'cards', label: 'Cards' },
              { value: 'text', label: 'Text' },
            ]}
            value={view}
            onChange={(v) => setView(v as 'cards' | 'text')}
          />
        </div>
        <p className="soft">
          Version {template.version} · {template.steps} steps · kept {clock.full(template.at)}
          {draft.isChanged ? ' · changed, not kept yet' : ''}
        </p>
        {view === 'cards' && sheet ? (
          <>
            <Head sheet={sheet} text={draft.text} readOnly={!leads} change={draft.change} />
            <StepCards text={draft.text} sheet={sheet} faults={faults} readOnly={!leads} change={draft.change} />
          </>
        ) : (
          <>
            {view === 'cards' && <p role="alert">The text has faults that no card can show. Mend them here; the cards come back.</p>}
            <TextForm text={draft.text} faults={faults} readOnly={!leads} change={draft.change} />
          </>
        )}
        {add.isError && <Failed error={add.error} />}
        {leads && (
          <div className="actions keep-bar">
            {view === 'cards' && faults.length > 0 && (
              <span role="status">{faults.length === 1 ? '1 fault' : `${faults.length} faults`}</span>
            )}
            <Button variant="default" disabled={!draft.canUndo} onClick={draft.undo}>
              Undo
            </Button>
            <Button variant="default" disabled={!draft.isChanged} onClick={draft.forget}>
              Throw changes away
            </Button>
            <Button
              disabled={!draft.isChanged || faults.length > 0 || settled !== draft.text || preview.isFetching}
              loading={add.isPending}
              onClick={keep}
            >
              {isNew ? 'Keep as a new checklist' : 'Keep as a new version'}
            </Button>
          </div>
        )}
      </section>
      <Look shown={preview.data} isBusy={preview.isFetching} setKind={setKind} />
    </div>
  )
}

/** What is changed and not kept yet outlives the page; what was a moment ago comes back. */
function useDraft(refresh: string, template: Template) {
  const [draft, setDraft, forget] = useLocalStorage<string | null>({
    key: `yard.checklist.${refresh}.${template.name}.${template.version}`,
    defaultValue: null,
  })
  const [past, setPast] = useState<string[]>([])
  const typed = useRef(0)
  const text = draft ?? template.yaml
  return {
    text,
    isChanged: draft !== null && draft !== template.yaml,
    canUndo: past.length > 0,
    change: (next: string) => {
      // What is typed in one go is undone in one go.
      const isSameGo = Date.now() - typed.current < oneGo
      typed.current = Date.now()
      if (!isSameGo || past.length === 0) setPast((before) => [...before.slice(-mostUndone), text])
      setDraft(next)
    },
    undo: () => {
      typed.current = 0
      setDraft(past.at(-1) ?? null)
      setPast((before) => before.slice(0, -1))
    },
    forget: () => {
      setPast((before) => [...before.slice(-mostUndone), text])
      forget()
    },
  }
}

function Head({ sheet, text, readOnly, change }: { sheet: Sheet; text: string; readOnly: boolean; change: (text: string) => void }) {
  return (
    <div className="field-row">
      <TextInput
        label="Name"
        description="Another name: another checklist."
        maxLength={100}
        value={sheet.name}
        readOnly={readOnly}
        onChange={(e) => change(setHead(text, 'name', e.currentTarget.value))}
      />
      <MultiSelect
        label="For swaps of kind"
        description="None chosen: all."
        data={optionsOf(swapWords)}
        value={sheet.kinds}
        readOnly={readOnly}
        onChange={(kinds) => change(setHead(text, 'kinds', kinds))}
      />
    </div>
  )
}
