import { Button, Modal, Textarea } from '@mantine/core'
import { type FormEvent, useState } from 'react'
import type { Snag, SwapSeen } from '../../api/client'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import { useOrder, useWaiver } from './queries'
import { SourceDialog } from './SourceDialog'

/** Open snags with the ways out: try again, give the file up with a reason, or say what a source is that looks like another one. */
export function Snags({ seen, works }: { seen: SwapSeen; works: boolean }) {
  const order = useOrder(seen.swap.id)
  const [waiving, setWaiving] = useState<Snag | null>(null)
  const [answering, setAnswering] = useState<Snag | null>(null)
  const clock = useClock()
  const open = seen.snags.filter((snag) => snag.end === 'open')
  const waived = seen.snags.filter((snag) => snag.end === 'waived')
  if (open.length + waived.length === 0) return null
  return (
    <div className="snags">
      {open.map((snag) => (
        <div key={snag.id} className="snag" role="group" aria-label={`Snag: ${visible(snag.path)}`}>
          <p>
            <strong className="sign-stopped">
              <span aria-hidden="true">■</span> snag
            </strong>{' '}
            <span className="mono">{visible(snag.path)}</span>
            <br />
            {snag.reason}
          </p>
          {works && (
            <div className="actions">
              {snag.kind !== 'otherLists' && (
                <Button
                  size="compact-sm"
                  variant="default"
                  disabled={seen.swap.isBusy}
                  loading={order.isPending}
                  onClick={() => order.mutate(snag.side === 'new' ? 'restore' : 'top-up-trip')}
                >
                  Try again
                </Button>
              )}
              {snag.kind === 'sourceDoubted' ? (
                <Button size="compact-sm" variant="default" onClick={() => setAnswering(snag)}>
                  Say what it is…
                </Button>
              ) : (
                <Button size="compact-sm" variant="default" onClick={() => setWaiving(snag)}>
                  {snag.kind === 'otherLists' ? 'Take it as it is…' : 'Waive…'}
                </Button>
              )}
            </div>
          )}
        </div>
      ))}
      {waived.map((snag) => (
        <p key={snag.id} className="waived soft">
          <span aria-hidden="true">–</span> <span className="mono">{visible(snag.path)}</span>{' '}
          {snag.kind === 'sourceDoubted' ? 'answered' : 'waived'} by {snag.endedBy} {snag.endedAt ? clock.full(snag.endedAt) : ''}:{' '}
          {snag.endReason}
        </p>
      ))}
      {answering && <SourceDialog id={seen.swap.id} snag={answering} close={() => setAnswering(null)} />}
      {waiving && <WaiveDialog id={seen.swap.id} snag={waiving} close={() => setWaiving(null)} />}
    </div>
  )
}

/** What a person gives up, or takes on their word, in the words of the dialog. */
const waiverWords = (snag: Snag) =>
  snag.kind === 'otherLists'
    ? {
        title: 'Take the parcel as it is',
        text: 'From now on what lies in the depot counts as the parcel of this swap, whatever it was before.',
        label: 'How do you know that it is right?',
        button: 'Take it as it is',
      }
    : snag.kind === 'untoldTrip'
      ? {
          title: 'Take the trip as made',
          text: 'From now on the trip that nobody reported counts; what it brought is told by the next one.',
          label: 'Who made it, and how do you know?',
          button: 'Take it as made',
        }
      : {
          title: 'Waive this file',
          text: `${visible(snag.path)} will not come along.`,
          label: 'Why is it not needed?',
          button: 'Waive',
        }

function WaiveDialog({ id, snag, close }: { id: string; snag: Snag; close: () => void }) {
  const waiver = useWaiver(id)
  const words = waiverWords(snag)
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    waiver.mutate({ snag: snag.id, reason }, { onSuccess: close })
  }
  return (
    <Modal opened onClose={close} title={words.title} centered>
      <form onSubmit={submit} className="stack">
        <p>{words.text} Your name and reason stay with the swap and are part of what is signed.</p>
        <Textarea
          label={words.label}
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          required
          maxLength={500}
          autosize
          minRows={2}
          data-autofocus
        />
        {waiver.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {waiver.error.message}
          </p>
        )}
        <div className="actions">
          <Button variant="default" onClick={close}>
            Keep it open
          </Button>
          <Button type="submit" loading={waiver.isPending} disabled={!reason.trim()}>
            {words.button}
          </Button>
        </div>
      </form>
    </Modal>
  )
}
