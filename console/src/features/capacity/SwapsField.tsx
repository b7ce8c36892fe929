import { MultiSelect } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, take } from '../../api/client'
import { useRefresh } from '../../shell/refresh'
import { swapLine } from './groups'
import { lines } from './thing'

const most = 12

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
  const found = useQuery({
    queryKey: ['swaps', 'found', refresh.key, asked],
    enabled: asked !== '',
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      take(
        api.GET('/api/refreshes/{refresh}/swaps', { params: { path: { refresh: refresh.key }, query: { q: asked, limit: most } }, signal }),
      ),
  })
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
