import { Button, Group, Modal, TextInput } from '@mantine/core'
import { useState } from 'react'
import { type Told, usePersonLink } from './queries'

/** A personal link: sent to the address on record, which nobody else sees; or made to hand over, and shown this once. */
export function LinkDialog({ person, close }: { person: Told; close: () => void }) {
  const make = usePersonLink(person.swap)
  const [copied, setCopied] = useState(false)
  const made = make.data
  return (
    <Modal opened onClose={close} title={`A link for ${person.name}`} centered>
      <div className="stack">
        {!made && (
          <>
            <p className="soft">
              It opens their own page on the first device that opens it, and nowhere else. Sent, only they see it. What is done by a link
              that you hand over is written down as done by a link that you handed over.
            </p>
            <Group>
              <Button onClick={() => make.mutate('mail')} loading={make.isPending} disabled={!person.mail} data-autofocus>
                Send it{person.mail ? ` to ${person.mail}` : ''}
              </Button>
              <Button variant="default" onClick={() => make.mutate('paper')} disabled={make.isPending}>
                Make one to hand over
              </Button>
            </Group>
            {!person.mail && <p className="soft">There is no mail address on record.</p>}
          </>
        )}
        {make.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {make.error.message}
          </p>
        )}
        {made?.sentTo && (
          <p role="status">
            <span aria-hidden="true">✓</span> A new link is on its way to {made.sentTo}. It is sent once an hour, however often it is asked
            for.
          </p>
        )}
        {made?.address && (
          <>
            <p className="soft">It is shown this once.</p>
            <TextInput label="Personal link" value={made.address} readOnly onFocus={(e) => e.currentTarget.select()} data-autofocus />
            <Button onClick={() => void navigator.clipboard?.writeText(made.address ?? '').then(() => setCopied(true))}>
              {copied ? 'Copied' : 'Copy it'}
            </Button>
          </>
        )}
      </div>
    </Modal>
  )
}
