import { useSortable } from '@dnd-kit/sortable'
import { CSS } from '@dnd-kit/utilities'
import { Button } from '@mantine/core'
import { useState } from 'react'
import { ConditionFields } from './ConditionFields'
import type { Fault } from './queries'
import { StepFields } from './StepFields'
import { askers, type Card, removeStep, type Sheet, setField, textOf } from './template'
import { kindWords } from './words'

export type CardProps = {
  card: Card
  sheet: Sheet
  text: string
  change: (text: string) => void
}

type Props = CardProps & { id: string; faults: readonly Fault[]; isOpen: boolean; toggle: () => void; readOnly: boolean }

/** A step: what it is in one line; opened, all that can be said about it. */
export function StepCard({ id, faults, isOpen, toggle, readOnly, ...props }: Props) {
  const { card } = props
  const sort = useSortable({ id })
  const title = textOf(card.fields.title)
  const kind = textOf(card.fields.kind)
  const style = { transform: CSS.Translate.toString(sort.transform), transition: sort.transition }
  return (
    <li ref={sort.setNodeRef} style={style} className={`step-card${sort.isDragging ? ' dragged' : ''}`} data-faulty={faults.length > 0}>
      <div className="step-card-line">
        {!readOnly && (
          <button
            type="button"
            className="grip"
            ref={sort.setActivatorNodeRef}
            {...sort.attributes}
            {...sort.listeners}
            aria-label={`Move ${title}`}
            title="Drag, or Space and the arrows"
          >
            ⠿
          </button>
        )}
        <button type="button" className="step-card-head" aria-expanded={isOpen} onClick={toggle}>
          <strong>{title || 'No title'}</strong>
          <span className="soft">
            {[kindWords[kind] ?? kind, card.fields.who === 'person' && 'by the person', card.fields.when ? 'not everywhere' : '']
              .filter(Boolean)
              .join(' · ')}
          </span>
        </button>
      </div>
      {faults.length > 0 && (
        <div role="status">
          <ul className="missing problem">
            {faults.map((fault) => (
              <li key={fault.words}>{fault.words}</li>
            ))}
          </ul>
        </div>
      )}
      {isOpen && (
        <fieldset className="stack step-card-body" disabled={readOnly} aria-label={title}>
          <StepFields {...props} />
          <ConditionFields {...props} set={(path, value) => props.change(setField(props.text, card.at, path, value))} />
          {!readOnly && <Remove {...props} />}
        </fieldset>
      )}
    </li>
  )
}

/** Asks where later steps depend on it; else what is gone comes back with Undo. */
function Remove({ card, sheet, text, change }: CardProps) {
  const [asks, setAsks] = useState(false)
  const needed = askers(sheet, card.key)
  const remove = () => (needed.length > 0 && !asks ? setAsks(true) : change(removeStep(text, card.at)))
  return (
    <div className="actions">
      {asks && <span role="alert">Asked for by: {needed.join(', ')}.</span>}
      <Button size="compact-sm" variant="default" color="red" onClick={remove}>
        {asks ? 'Take it out all the same' : 'Take this step out'}
      </Button>
    </div>
  )
}
