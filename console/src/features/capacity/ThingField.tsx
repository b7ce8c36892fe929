import { MultiSelect, NativeSelect, PasswordInput, Textarea, TextInput } from '@mantine/core'
import { ShiftsField } from './fields/ShiftsField'
import { SpansField } from './fields/SpansField'
import { SwapsField } from './SwapsField'
import { type Field, lines, type World } from './thing'

/** One field of a thing, as what it holds is best chosen. */
export function ThingField({
  field,
  value,
  fixed,
  world,
  set,
}: {
  field: Field
  value: string
  fixed: boolean
  world: World
  set: (value: string) => void
}) {
  const common = { label: field.label, description: field.help, required: field.needed, disabled: fixed, value }
  const sites = world.sites.map((s) => ({ value: s.key, label: s.name }))
  const own = { label: field.label, help: field.help, required: field.needed, value, set }
  switch (field.as) {
    case 'sites':
      return (
        <MultiSelect {...common} value={lines(value)} data={sites} onChange={(chosen) => set(chosen.join('\n'))} searchable clearable />
      )
    case 'shift':
    case 'shifts':
      return <ShiftsField {...own} single={field.as === 'shift'} />
    case 'span':
    case 'spans':
      return <SpansField {...own} single={field.as === 'span'} />
    case 'moment':
      return (
        <TextInput
          {...common}
          type="datetime-local"
          value={value.replace(' ', 'T')}
          onChange={(e) => set(e.currentTarget.value.replace('T', ' '))}
        />
      )
    case 'depot':
      return (
        <NativeSelect
          {...common}
          data={[{ value: '', label: 'none' }, ...world.depots.map((d) => ({ value: d.key, label: d.name }))]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'lines':
      return <Textarea {...common} autosize minRows={2} maxRows={8} onChange={(e) => set(e.currentTarget.value)} />
    case 'site':
      return <NativeSelect {...common} data={[{ value: '', label: '' }, ...sites]} onChange={(e) => set(e.currentTarget.value)} />
    case 'yes':
      return (
        <NativeSelect
          {...common}
          data={[
            { value: '', label: 'no' },
            { value: 'yes', label: 'yes' },
          ]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'scope':
      return (
        <NativeSelect
          {...common}
          data={[
            { value: 'kind', label: 'a kind of swap' },
            { value: 'model', label: 'a model of new computer' },
            { value: 'swap', label: 'one swap' },
          ]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'number':
      return <TextInput {...common} inputMode="decimal" onChange={(e) => set(e.currentTarget.value.replace(/[^0-9.]/g, ''))} />
    case 'date':
      return <TextInput {...common} type="date" onChange={(e) => set(e.currentTarget.value)} />
    case 'swaps':
      return <SwapsField {...common} set={set} />
    case 'secret':
      return <PasswordInput {...common} autoComplete="new-password" onChange={(e) => set(e.currentTarget.value)} />
    case 'key':
    case 'text':
      return <TextInput {...common} onChange={(e) => set(e.currentTarget.value)} />
  }
}
