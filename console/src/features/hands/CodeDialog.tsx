import { Button, Modal, TextInput } from '@mantine/core'
import { type FormEvent, useState } from 'react'
import { Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { useMakeCode } from './queries'

/** A code that enrols the hand of a computer, with the line to run there. */
export function CodeDialog({ tag: given = '', close }: { tag?: string; close: () => void }) {
  const make = useMakeCode(useRefresh().key)
  const clock = useClock()
  const [tag, setTag] = useState(given)
  const send = (event: FormEvent) => {
    event.preventDefault()
    make.mutate(tag.trim())
  }
  return (
    <Modal opened onClose={close} title="Code for a computer" centered closeOnClickOutside={false}>
      {make.data ? (
        <div className="stack">
          <p>
            For {make.data.tag}, once, until {clock.full(make.data.expires)}. It is shown this once only:
          </p>
          <p className="mono code-made">{make.data.code}</p>
          <p className="soft">At that computer, with the folder that it is to read and fill:</p>
          <pre className="mono command">
            yardhand enrol --service {window.location.origin} --code {make.data.code} --tag {make.data.tag} --root HOME --state ~/.yardhand
          </pre>
          <div className="actions">
            <Button onClick={close} data-autofocus>
              It is written down
            </Button>
          </div>
        </div>
      ) : (
        <form onSubmit={send} className="stack">
          <TextInput
            label="Asset tag"
            value={tag}
            onChange={(e) => setTag(e.currentTarget.value)}
            data-autofocus
            required
            maxLength={60}
            description="A hand that is enrolled there already is replaced when the code is used."
          />
          {make.isError && <Failed error={make.error} />}
          <div className="actions">
            <Button variant="default" onClick={close}>
              Cancel
            </Button>
            <Button type="submit" loading={make.isPending} disabled={!tag.trim()}>
              Make it
            </Button>
          </div>
        </form>
      )}
    </Modal>
  )
}
