import { Button, Modal, Radio, Textarea } from '@mantine/core'
import { type FormEvent, useState } from 'react'
import type { Schemas, Snag } from '../../api/client'
import { useSourceAnswer } from './queries'

/** Asks what a source is that did not look like what was carried before. */
export function SourceDialog({ id, snag, close }: { id: string; snag: Snag; close: () => void }) {
  const answer = useSourceAnswer(id)
  // What is gone altogether cannot be the same.
  const isGone = snag.doubt === 'allGone' || snag.doubt === 'foldersGone'
  const [verdict, setVerdict] = useState<Schemas['SourceVerdict'] | ''>(isGone ? 'deleted' : '')
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (verdict) answer.mutate({ snag: snag.id, verdict, reason }, { onSuccess: close })
  }
  return (
    <Modal opened onClose={close} title="What is at the old computer?" centered closeOnClickOutside={false}>
      <form onSubmit={submit} className="stack">
        <p>{snag.reason}</p>
        <p className="soft">
          Is it the wrong disk or folder? Mount the right one and try again; nothing needs to be said. The parcel keeps all it has, whatever
          you answer, and more loss asks again.
        </p>
        <Radio.Group
          label="If it is the right one, what happened?"
          value={verdict}
          onChange={(v) => setVerdict(v as Schemas['SourceVerdict'])}
          required
        >
          <div className="stack">
            {!isGone && <Radio value="same" label="It moved, was copied, or an earlier state was put back" />}
            <Radio value="deleted" label="What is gone was deleted, or moved away, on purpose" />
          </div>
        </Radio.Group>
        <Textarea
          label="How do you know?"
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          required
          maxLength={500}
          autosize
          minRows={2}
        />
        {answer.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {answer.error.message}
          </p>
        )}
        <div className="actions">
          <Button variant="default" onClick={close}>
            Keep it open
          </Button>
          <Button type="submit" loading={answer.isPending} disabled={!verdict || !reason.trim()}>
            Answer
          </Button>
        </div>
      </form>
    </Modal>
  )
}
