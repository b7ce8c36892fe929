import { NativeSelect } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, repeatKey, take } from '../../api/client'
import type { SwapsSearch } from '../../router'
import { FormDialog } from '../parcel/FormDialog'
import { idsOf } from './BulkEdit'

const orders = [
  { value: 'survey', label: 'Survey the old computers' },
  { value: 'first-trip', label: 'First trip' },
  { value: 'top-up-trip', label: 'Top-up trip' },
  { value: 'closing-trip', label: 'Closing trip' },
  { value: 'verify', label: 'Verify the parcels' },
  { value: 'look', label: 'Look before a restore' },
  { value: 'restore', label: 'Restore to the new computers' },
]

/** The same order at all the swaps that are found; those that cannot have it now stay as they are, each with why. */
export function BulkOrder({ refresh, search, total, close }: { refresh: string; search: SwapsSearch; total: number; close: () => void }) {
  const queries = useQueryClient()
  const [kind, setKind] = useState('survey')
  const order = useMutation({
    mutationFn: async () =>
      take(
        api.POST('/api/refreshes/{refresh}/orders', {
          params: { path: { refresh } },
          headers: repeatKey(),
          body: { kind, swaps: await idsOf(refresh, search), isAll: false },
        }),
      ),
    onSuccess: (made) => {
      queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' })
      if (made.skipped.length + made.withoutHand.length > 0) return
      notifications.show({ message: `${made.given} ${made.given === 1 ? 'order is' : 'orders are'} given.` })
      close()
    },
  })
  const done = order.data
  return (
    <FormDialog
      title={`Order at ${total.toLocaleString('en-GB')} swaps`}
      close={close}
      change={order}
      send={() => (done ? close() : order.mutate())}
      action={done ? 'Done' : 'Order it'}
    >
      {done ? (
        <>
          <p role="status">
            {done.given} {done.given === 1 ? 'order is' : 'orders are'} given, {done.skipped.length} not.
            {done.withoutHand.length > 0 && ` No hand is enrolled at ${done.withoutHand.join(', ')}: those wait for one.`}
          </p>
          <ul className="rows changes" tabIndex={0} aria-label="Not ordered">
            {done.skipped.map((words) => (
              <li key={words} className="plain">
                {words}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <>
          <p className="soft">At all that the list shows as it is found now. Those that cannot have it stay as they are, each with why.</p>
          <NativeSelect label="What?" data={orders} value={kind} onChange={(e) => setKind(e.currentTarget.value)} data-autofocus />
        </>
      )}
    </FormDialog>
  )
}
