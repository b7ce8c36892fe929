import { Button, MultiSelect, NativeSelect, TagsInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useRefresh } from '../../shell/refresh'
import { choicesQuery } from './queries'
import type { CardProps } from './StepCard'
import { answersOf, askedOf, textOf, textsOf } from './template'
import { optionsOf, platformWords, swapWords } from './words'

type Props = CardProps & { set: (path: string[], value: unknown) => void }

const lists: [what: string, words: string, of: 'rooms' | 'departments' | 'roles' | 'oldModels' | 'newModels' | null][] = [
  ['room', 'Rooms', 'rooms'],
  ['department', 'Departments', 'departments'],
  ['role', 'Roles', 'roles'],
  ['old-model', 'Old models', 'oldModels'],
  ['new-model', 'New models', 'newModels'],
  ['program', 'Programs of the old computer', null],
]

/** Where a step is needed: chosen from what there is. Of each list one is enough, and all that is asked must hold. */
export function ConditionFields(props: Props) {
  const { card, set } = props
  const choices = useQuery(choicesQuery(useRefresh().key)).data
  const asked = (what: string) => askedOf(card, what)
  // What the text names and the roster does not have (any more) stays chosen.
  const known = (all: readonly { value: string; label: string }[], chosen: string[]) => [
    ...all,
    ...chosen.filter((c) => !all.some((a) => a.value === c)).map((c) => ({ value: c, label: c })),
  ]
  const several = (what: string, label: string, data: readonly { value: string; label: string }[]) => (
    <MultiSelect
      label={label}
      placeholder={asked(what).length === 0 ? 'All' : undefined}
      data={known(data, asked(what))}
      value={asked(what)}
      onChange={(chosen) => set(['when', what], chosen)}
    />
  )
  return (
    <details open={card.fields.when !== undefined}>
      <summary>Where it is needed</summary>
      <div className="stack">
        <p className="soft">Nothing chosen: everywhere. Of each list one is enough; all lists must hold.</p>
        <div className="field-row">
          {several('kind', 'Kinds of swap', optionsOf(swapWords))}
          {several(
            'site',
            'Sites',
            (choices?.sites ?? []).map((s) => ({ value: s.key, label: s.name })),
          )}
        </div>
        <div className="field-row">
          {lists.map(([what, words, of]) => (
            <TagsInput
              key={what}
              label={words}
              placeholder={asked(what).length === 0 ? 'All' : undefined}
              data={of ? (choices?.[of] ?? []) : []}
              value={asked(what)}
              onChange={(chosen) => set(['when', what], chosen)}
            />
          ))}
          {several('old-platform', 'Systems of the old computer', optionsOf(platformWords))}
          {several('new-platform', 'Systems of the new computer', optionsOf(platformWords))}
        </div>
        <Answers {...props} />
      </div>
    </details>
  )
}

/** Answers of earlier steps: those of this checklist that stand before it. */
function Answers({ card, sheet, set }: Props) {
  const before = sheet.cards.slice(0, sheet.cards.indexOf(card)).filter((c) => c.key !== '')
  const asked = Object.entries(answersOf(card))
  const free = before.filter((c) => !asked.some(([key]) => key === c.key))
  const answersFor = (key: string) => {
    const options = textsOf(before.find((c) => c.key === key)?.fields.options)
    return options.length > 0 ? options : ['done', 'not-applicable']
  }
  const nameOf = (key: string) => textOf(before.find((c) => c.key === key)?.fields.title) || key
  return (
    <>
      {asked.map(([key, answers]) => (
        <div className="answer-row" key={key}>
          <TagsInput
            label={`Answer to “${nameOf(key)}”`}
            data={answersFor(key)}
            value={textsOf(answers)}
            onChange={(chosen) => set(['when', 'answers', key], chosen)}
          />
          <Button size="compact-sm" variant="default" onClick={() => set(['when', 'answers', key], [])}>
            Do not ask
          </Button>
        </div>
      ))}
      {free.length > 0 && (
        <NativeSelect
          label="After an answer to an earlier step"
          value=""
          data={[{ value: '', label: 'Choose a step' }, ...free.map((c) => ({ value: c.key, label: textOf(c.fields.title) || c.key }))]}
          onChange={(e) => e.target.value && set(['when', 'answers', e.target.value], answersFor(e.target.value).slice(0, 1))}
        />
      )}
    </>
  )
}
