import { Button, Modal, Textarea } from '@mantine/core'
import { notifications } from '@mantine/notifications'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, repeatKey, take } from '../../api/client'
import { Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { useRefresh } from '../../shell/refresh'
import type { Listed } from './queries'

/** Gives several files up with one reason. */
export function WaiveMany({ snags, close }: { snags: Listed[]; close: (done: boolean) => void }) {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [reason, setReason] = useState('')
  const people = new Set(snags.map((s) => s.snag.swap)).size
  const waive = useMutation({
    mutationFn: () =>
      take(
        api.POST('/api/refreshes/{refresh}/waivers', {
          params: { path: { refresh: refresh.key } },
          headers: repeatKey(),
          body: { snags: snags.map((s) => s.snag.id), reason },
        }),
      ),
    onSuccess: (made) => {
      if (made.skipped.length)
        notifications.show({
          color: 'red',
          title: `${made.skipped.length} were not waived`,
          message: made.skipped.slice(0, 5).join(' '),
          autoClose: 12_000,
        })
      close(true)
    },
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    waive.mutate()
  }
  return (
    <Modal
      opened
      onClose={() => close(false)}
      title={`Waive ${snags.length === 1 ? 'this file' : `${snags.length} files`}`}
      centered
      closeOnClickOutside={false}
    >
      <form onSubmit={submit} className="stack">
        <p>
          {snags.length === 1 ? 'It' : 'They'} will not come along, for {people === 1 ? 'one person' : `${people} people`}. Your name and
          the reason stay with each, in the report that the person gets.
        </p>
        <ul className="changes">
          {snags.slice(0, 6).map((s) => (
            <li key={s.snag.id}>
              <span className="mono path">{visible(s.snag.path)}</span> <span className="soft">of {s.name}</span>
            </li>
          ))}
          {snags.length > 6 && <li className="soft">and {snags.length - 6} more</li>}
        </ul>
        <Textarea
          label={snags.length === 1 ? 'Why is it not needed?' : 'Why are they not needed?'}
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          required
          maxLength={500}
          autosize
          minRows={2}
          data-autofocus
        />
        {waive.isError && <Failed error={waive.error} />}
        <div className="actions">
          <Button variant="default" onClick={() => close(false)}>
            Keep {snags.length === 1 ? 'it' : 'them'} open
          </Button>
          <Button type="submit" loading={waive.isPending} disabled={!reason.trim()}>
            Waive
          </Button>
        </div>
      </form>
    </Modal>
  )
}
