import {
  type Announcements,
  closestCenter,
  DndContext,
  type DragEndEvent,
  KeyboardSensor,
  PointerSensor,
  type UniqueIdentifier,
  useSensor,
  useSensors,
} from '@dnd-kit/core'
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable'
import { Fragment, useState } from 'react'
import { AddStep } from './AddStep'
import type { Fault } from './queries'
import { StepCard } from './StepCard'
import { addStep, type Card, cardAt, moveStep, phaseKeys, type Sheet, textOf } from './template'
import { phaseWords } from './words'

type Props = {
  text: string
  sheet: Sheet
  faults: readonly Fault[]
  readOnly: boolean
  change: (text: string) => void
}

const instructions = 'Space takes a step up, the arrows move it, Space puts it down, Escape leaves it where it was.'

/** The steps of a checklist as cards, by phase; one is open at a time. */
export function StepCards({ text, sheet, faults, readOnly, change }: Props) {
  const [open, setOpen] = useState<string | null>(null)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  )
  const ids = idsOf(sheet.cards)
  const of = (id: UniqueIdentifier) => sheet.cards[ids.indexOf(String(id))]
  const drop = ({ active, over }: DragEndEvent) => {
    const [from, to] = [of(active.id), over ? of(over.id) : undefined]
    if (from && to && from !== to) change(moveStep(text, from, to, ids.indexOf(String(active.id)) < ids.indexOf(String(over?.id))))
  }
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={drop}
      accessibility={{ announcements: announce(of), screenReaderInstructions: { draggable: instructions } }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy} disabled={readOnly}>
        {phaseKeys.map((phase) => (
          <Fragment key={phase}>
            <h3>
              {phaseWords[phase]} · {sheet.cards.filter((c) => c.phase === phase).length}
            </h3>
            <ul className="rows step-cards" aria-label={phaseWords[phase]}>
              {sheet.cards.map((card, i) =>
                card.phase === phase || (phase === 'before' && !phaseKeys.includes(card.phase)) ? (
                  <StepCard
                    key={ids[i]}
                    id={ids[i] ?? ''}
                    card={card}
                    sheet={sheet}
                    text={text}
                    faults={faults.filter((f) => f.line !== null && cardAt(sheet, f.line) === card)}
                    isOpen={open === ids[i]}
                    toggle={() => setOpen(open === ids[i] ? null : (ids[i] ?? null))}
                    readOnly={readOnly}
                    change={change}
                  />
                ) : null,
              )}
            </ul>
            {!readOnly && (
              <AddStep
                phase={phase}
                add={(title) => {
                  const added = addStep(text, phase, title)
                  change(added.text)
                  setOpen(added.key)
                }}
              />
            )}
          </Fragment>
        ))}
      </SortableContext>
    </DndContext>
  )
}

/** A step's key; of several with one key, each its own. */
function idsOf(cards: readonly Card[]) {
  const seen = new Set<string>()
  return cards.map((card) => {
    const id = card.key && !seen.has(card.key) ? card.key : `${card.key}#${card.at}`
    seen.add(id)
    return id
  })
}

const announce = (of: (id: UniqueIdentifier) => Card | undefined): Announcements => {
  const title = (id: UniqueIdentifier) => textOf(of(id)?.fields.title)
  const phase = (id: UniqueIdentifier) => phaseWords[of(id)?.phase ?? ''] ?? ''
  return {
    onDragStart: ({ active }) => `${title(active.id)} is taken up.`,
    onDragOver: ({ active, over }) => (over ? `${title(active.id)} is at the place of ${title(over.id)}, ${phase(over.id)}.` : undefined),
    onDragEnd: ({ active, over }) => `${title(active.id)} is put down${over ? ` at the place of ${title(over.id)}` : ''}.`,
    onDragCancel: ({ active }) => `${title(active.id)} stays where it was.`,
  }
}
