import { MultiSelect } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useRefresh } from '../../shell/refresh'
import { foundSwapsQuery } from '../swaps/queries'
import { swapLine } from './groups'
import { lines } from './thing'

/** Several swaps, found by the person's name, a tag or a room. The value has one in each line: its id, then whose it is. */
export function SwapsField({
  value,
  set,
  ...shown
}: {
  label: string
  description?: string
  required?: boolean
  value: string
  set: (value: string) => void
}) {
  const refresh = useRefresh()
  const [text, setText] = useState('')
  const [asked] = useDebouncedValue(text.trim(), 150)
  const found = useQuery(foundSwapsQuery(refresh.key, asked))
  const chosen = lines(value)
  const offered = asked ? (found.data?.items ?? []).map((s) => swapLine(s.id, s.name)) : []
  return (
    <MultiSelect
      {...shown}
      placeholder="A name, tag or room"
      searchable
      hidePickedOptions
      // The service has looked already.
      filter={({ options }) => options}
      data={[...new Set([...chosen, ...offered])].map((line) => ({ value: line, label: line.slice(line.indexOf(' ') + 1) }))}
      value={chosen}
      onChange={(all) => set(all.join('\n'))}
      searchValue={text}
      onSearchChange={setText}
      nothingFoundMessage={asked && found.isSuccess && !found.isPlaceholderData ? `Nobody is found by '${asked}'.` : undefined}
    />
  )
}
