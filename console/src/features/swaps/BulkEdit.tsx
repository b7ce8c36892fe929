import { Button, Modal, NativeSelect, NumberInput, Textarea } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, repeatKey, take } from '../../api/client'
import type { SwapsSearch } from '../../router'
import { Failed } from '../../shared/States'
import { worldQuery } from '../plan/queries'

const lines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

/** Ids of all swaps that a search finds, piece by piece. */
export async function idsOf(refresh: string, search: SwapsSearch): Promise<string[]> {
  const ids: string[] = []
  for (let cursor: string | undefined = ''; cursor !== undefined; ) {
    const page: { items: { id: string }[]; next: string | null } = await take(
      api.GET('/api/refreshes/{refresh}/swaps', {
        params: { path: { refresh }, query: { q: search.q, site: search.site, next: search.next, limit: 500, cursor } },
      }),
    )
    ids.push(...page.items.map((s) => s.id))
    cursor = page.next ?? undefined
  }
  return ids
}

/** Tells planning about all the swaps that are found: what is left empty stays as it is. */
export function BulkEdit({ refresh, search, total, close }: { refresh: string; search: SwapsSearch; total: number; close: () => void }) {
  const world = useQuery(worldQuery(refresh))
  const queries = useQueryClient()
  const [wave, setWave] = useState('')
  const [weight, setWeight] = useState<number | string>('')
  const [skills, setSkills] = useState('')
  const [free, setFree] = useState('')
  const [preferred, setPreferred] = useState('')
  const [pin, setPin] = useState('')
  const edit = useMutation({
    mutationFn: async () =>
      take(
        api.POST('/api/refreshes/{refresh}/swaps/edits', {
          params: { path: { refresh } },
          headers: repeatKey(),
          body: {
            swaps: await idsOf(refresh, search),
            wave: wave === '' ? null : wave === '-' ? '' : wave,
            weight: typeof weight === 'number' ? weight : null,
            skills: skills.trim() ? lines(skills) : null,
            free: free.trim() ? lines(free) : null,
            preferred: preferred.trim() ? lines(preferred) : null,
            unpin: pin === '-',
            pinnedTechnician: pin === '' || pin === '-' ? null : pin,
          },
        }),
      ),
    onSuccess: (done) => {
      notifications.show({
        message: `${done.changed} ${done.changed === 1 ? 'swap' : 'swaps'} changed, ${done.same} were so already. Plan again to see what it does.`,
      })
      queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' })
      close()
    },
  })
  return (
    <Modal opened onClose={close} title={`Tell planning about ${total.toLocaleString('en-GB')} swaps`} closeOnClickOutside={false}>
      <form
        className="stack"
        onSubmit={(event) => {
          event.preventDefault()
          edit.mutate()
        }}
      >
        <p className="soft">What is left empty stays as it is. All of them change, or none.</p>
        <NativeSelect
          label="Wave"
          value={wave}
          onChange={(e) => setWave(e.currentTarget.value)}
          data={[
            { value: '', label: 'as it is' },
            { value: '-', label: 'in none' },
            ...(world.data?.waves ?? []).map((w) => ({ value: w.key, label: `${w.name}, ${w.from} to ${w.until}` })),
          ]}
        />
        <NumberInput label="Weight" description="1 to 9: what leaving it out counts" min={1} max={9} value={weight} onChange={setWeight} />
        <Textarea
          label="The technician must know"
          description="One per line"
          autosize
          value={skills}
          onChange={(e) => setSkills(e.currentTarget.value)}
        />
        <Textarea
          label="Free"
          description="2026-11-25 08:00-12:00, one per line"
          autosize
          value={free}
          onChange={(e) => setFree(e.currentTarget.value)}
        />
        <Textarea
          label="Would like it"
          description="2026-11-25 08:00-12:00, one per line"
          autosize
          value={preferred}
          onChange={(e) => setPreferred(e.currentTarget.value)}
        />
        <NativeSelect
          label="Pin to a technician"
          description="A time is pinned swap by swap, on the plan"
          value={pin}
          onChange={(e) => setPin(e.currentTarget.value)}
          data={[
            { value: '', label: 'as it is' },
            { value: '-', label: 'take pins out, of technician and time' },
            ...(world.data?.technicians ?? []).map((t) => ({ value: t.key, label: t.name })),
          ]}
        />
        {edit.isError && <Failed error={edit.error} />}
        <div className="actions">
          <Button type="submit" loading={edit.isPending}>
            Change them
          </Button>
        </div>
      </form>
    </Modal>
  )
}
