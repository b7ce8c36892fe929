import { Select } from '@mantine/core'
import { useDebouncedValue } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { foundSwapsQuery } from '../swaps/queries'

type Props = { label: string; but: string; value: string; set: (swap: string) => void }

/** One swap, found by the person's name, a tag or a room. */
export function SwapField({ label, but, value, set }: Props) {
  const clock = useClock()
  const [text, setText] = useState('')
  const [asked] = useDebouncedValue(text.trim(), 150)
  const found = useQuery(foundSwapsQuery(useRefresh().key, asked))
  const offered = (found.data?.items ?? []).filter((s) => s.id !== but)
  return (
    <Select
      label={label}
      placeholder="A name, tag or room"
      searchable
      required
      // The service has looked already.
      filter={({ options }) => options}
      data={offered.map((s) => ({
        value: s.id,
        label: `${s.name} · ${s.site} · ${s.appointment ? clock.full(s.appointment.start) : 'no time'}`,
      }))}
      value={value || null}
      onChange={(swap) => set(swap ?? '')}
      searchValue={text}
      onSearchChange={setText}
      nothingFoundMessage={asked && found.isSuccess && !found.isPlaceholderData ? `Nobody is found by '${asked}'.` : undefined}
    />
  )
}
