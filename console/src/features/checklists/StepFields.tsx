import { Checkbox, NativeSelect, TagsInput, Textarea, TextInput } from '@mantine/core'
import { Prose } from '../../shared/Prose'
import type { CardProps } from './StepCard'
import { setFact, setField, setKind, textOf, textsOf } from './template'
import { factWords, kindHelp, kindWords, optionsOf, phaseWords, stationWords } from './words'

/** A number where it is one; whatever else was typed stays, and is a fault with its words. */
const numberOf = (text: string) => (/^-?\d+(\.\d+)?$/.test(text) ? Number(text) : text)

/** What a step is, when, by whom, and what its kind asks for. */
export function StepFields({ card, text, change }: CardProps) {
  const { fields } = card
  const set = (field: string, value: unknown) => change(setField(text, card.at, [field], value))
  const kind = textOf(fields.kind)
  const personal = kind === 'tick' || kind === 'confirmation'
  return (
    <>
      <TextInput label="What is to be done" value={textOf(fields.title)} maxLength={200} onChange={(e) => set('title', e.target.value)} />
      <div className="field-row">
        <NativeSelect
          label="How it is done"
          description={kindHelp[kind]}
          data={optionsOf(kindWords)}
          value={kind}
          onChange={(e) => change(setKind(text, card.at, e.target.value))}
        />
        <NativeSelect label="When" data={optionsOf(phaseWords)} value={card.phase} onChange={(e) => set('phase', e.target.value)} />
      </div>
      <KindFields card={card} text={text} change={change} set={set} />
      <div className="field-row">
        <NativeSelect
          label="By whom"
          data={[
            { value: '', label: 'A technician' },
            { value: 'person', label: 'The person, on their own page' },
          ]}
          value={fields.who === 'person' ? 'person' : ''}
          disabled={!personal}
          title={personal ? undefined : 'A person only ticks or confirms.'}
          onChange={(e) => set('who', e.target.value)}
        />
        <NativeSelect
          label="Reaches the station"
          data={[{ value: '', label: 'None' }, ...optionsOf(stationWords)]}
          value={textOf(fields.marks)}
          onChange={(e) => set('marks', e.target.value)}
        />
      </div>
      <Checkbox
        label="Is done to the new computer: again, where another one takes its place"
        checked={fields.on === 'new'}
        onChange={(e) => set('on', e.target.checked ? 'new' : '')}
      />
      <Textarea
        label="Help, for who does not know"
        description="**bold**, 1. numbered, - listed, [words](https://…)"
        autosize
        minRows={2}
        maxRows={10}
        maxLength={4000}
        value={textOf(fields.help)}
        onChange={(e) => set('help', e.target.value)}
      />
      {textOf(fields.help) !== '' && (
        <div className="help-preview">
          <Prose text={textOf(fields.help)} />
        </div>
      )}
    </>
  )
}

type KindProps = CardProps & { set: (field: string, value: unknown) => void }

function KindFields({ card, text, change, set }: Omit<KindProps, 'sheet'>) {
  const { fields } = card
  const field = (name: string, label: string, value: (text: string) => unknown = (t) => t) => (
    <TextInput label={label} value={textOf(fields[name])} onChange={(e) => set(name, value(e.target.value))} />
  )
  switch (textOf(fields.kind)) {
    case 'scan':
      return (
        <NativeSelect
          label="Tag of"
          data={[
            { value: 'new', label: 'the new computer' },
            { value: 'old', label: 'the old computer' },
          ]}
          value={textOf(fields.expects)}
          onChange={(e) => set('expects', e.target.value)}
        />
      )
    case 'number':
      return (
        <div className="field-row narrow">
          {field('unit', 'Unit')}
          {field('least', 'At least', numberOf)}
          {field('most', 'At most', numberOf)}
        </div>
      )
    case 'choice':
      return (
        <>
          <TagsInput
            label="Answers"
            description="2 to 20; Enter ends one."
            value={textsOf(fields.options)}
            onChange={(options) => set('options', options)}
          />
          <Checkbox
            label="Propose one by how fast the files grow; the most frequent answer stands first"
            checked={fields.propose === 'by-growth'}
            onChange={(e) => set('propose', e.target.checked ? 'by-growth' : '')}
          />
        </>
      )
    case 'again':
      return field('until', 'Until')
    case 'automatic':
      return (
        <>
          <NativeSelect
            label="What the system must see"
            data={optionsOf(factWords)}
            value={textOf(fields.fact)}
            onChange={(e) => change(setFact(text, card.at, e.target.value))}
          />
          {fields.fact === 'free-disk' && field('least', 'Gigabytes free, at least', numberOf)}
          {fields.fact === 'programs-found' && (
            <TagsInput
              label="Programs"
              description="* for any characters; none: what the old computer had and the catalogue knows."
              value={textsOf(fields.programs)}
              onChange={(programs) => set('programs', programs)}
            />
          )}
        </>
      )
    default:
      return null
  }
}
