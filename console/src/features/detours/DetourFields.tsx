import { Checkbox, NumberInput, Radio, Select, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useRefresh } from '../../shell/refresh'
import { ScanField } from '../swap/ScanField'
import { sparesQuery } from './queries'
import { SwapField } from './SwapField'
import { type Draft, isMissing } from './told'

type Props = { draft: Draft; set: (some: Partial<Draft>) => void; swap: string }

/** What is asked of one kind of detour, beside the reason. */
export function DetourFields({ draft, set, swap }: Props) {
  switch (draft.kind) {
    case 'late':
      return (
        <NumberInput
          label="How late at least, in minutes"
          min={5}
          max={600}
          step={5}
          value={draft.minutes}
          onChange={(minutes) => set({ minutes })}
        />
      )
    case 'noShow':
      return (
        <Checkbox
          label="Promise the first other time that fits, from tomorrow on"
          description="Otherwise the next plan finds one."
          checked={draft.soonest}
          onChange={(e) => set({ soonest: e.currentTarget.checked })}
        />
      )
    case 'later':
      return (
        <TextInput
          type="date"
          label="The first day that suits them"
          description="The first time from then on is promised, and no plan gives them an earlier one."
          value={draft.from}
          onChange={(e) => set({ from: e.currentTarget.value })}
          required
        />
      )
    case 'wrongPerson':
      return (
        <>
          <SwapField label="Who came?" but={swap} value={draft.other} set={(other) => set({ other })} />
          <Checkbox
            label="The two have each other’s time"
            description="Only where technician, place and length allow it."
            checked={draft.exchange}
            onChange={(e) => set({ exchange: e.currentTarget.checked })}
          />
        </>
      )
    case 'wrongComputer':
      return (
        <>
          <ScanField label="Tag of the computer that came" value={draft.tag} onChange={(tag) => set({ tag })} />
          <Checkbox
            label="It is meant for somebody else: each gets the other's"
            checked={draft.exchange}
            onChange={(e) => set({ exchange: e.currentTarget.checked })}
          />
        </>
      )
    case 'personGone':
      return (
        <TextInput
          label="Who receives the files?"
          description="Key of a person in the roster. Left empty: the swap is called off."
          value={draft.receiver}
          onChange={(e) => set({ receiver: e.currentTarget.value })}
        />
      )
    case 'found':
      return <TextInput label="Where is it now?" value={draft.where} onChange={(e) => set({ where: e.currentTarget.value })} required />
    case 'deadOnArrival':
      return <SpareField draft={draft} set={set} placeholder="One of the same model, best from here" />
    default:
      return isMissing(draft.kind) ? <MissingFields draft={draft} set={set} /> : null
  }
}

function MissingFields({ draft, set }: Omit<Props, 'swap'>) {
  return (
    <>
      <TextInput
        label="Where was it last?"
        description="Left empty: where it is on record."
        value={draft.where}
        onChange={(e) => set({ where: e.currentTarget.value })}
      />
      <Radio.Group label="Can a stranger read its disk?" value={draft.disk} onChange={(disk) => set({ disk: disk as Draft['disk'] })}>
        <div className="stack tight">
          <Radio value="unknown" label="Nobody knows" description="It then counts as readable." />
          <Radio value="encrypted" label="No, it is encrypted" />
          <Radio value="plain" label="Yes" />
        </div>
      </Radio.Group>
      <SpareField draft={draft} set={set} placeholder="The new computer that was planned, else a spare" />
    </>
  )
}

function SpareField({ draft, set, placeholder }: Omit<Props, 'swap'> & { placeholder: string }) {
  const spares = useQuery(sparesQuery(useRefresh().key))
  const given = (spares.data ?? []).filter((s) => !s.trouble)
  return (
    <Select
      label={isMissing(draft.kind) ? 'What takes its place?' : 'Which spare takes its place?'}
      placeholder={given.length || isMissing(draft.kind) ? placeholder : 'There is no spare that can be given out'}
      data={given.map((s) => ({ value: s.key, label: `${s.key}${s.model ? ` · ${s.model}` : ''} · ${s.site}` }))}
      value={draft.tag || null}
      onChange={(tag) => set({ tag: tag ?? '' })}
      clearable
    />
  )
}
