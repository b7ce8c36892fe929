import { Button, Modal, TextInput } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'
import { type Told, usePersonLink } from './queries'

/** Makes a personal link and shows it, this once. */
export function LinkDialog({ person, close }: { person: Told; close: () => void }) {
  const make = usePersonLink()
  const [copied, setCopied] = useState(false)
  const asked = useRef(false)
  const { mutate } = make
  useEffect(() => {
    // Once, however often it is drawn: each asking makes another link.
    if (!asked.current) mutate(person.swap)
    asked.current = true
  }, [mutate, person.swap])
  return (
    <Modal opened onClose={close} title={`A link for ${person.name}`} centered>
      <div className="stack">
        <p className="soft">It opens their own page on the first device that opens it, and nowhere else. It is shown this once.</p>
        {make.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {make.error.message}
          </p>
        )}
        {make.data && (
          <>
            <TextInput label="Personal link" value={make.data.address} readOnly onFocus={(e) => e.currentTarget.select()} data-autofocus />
            <Button onClick={() => void navigator.clipboard?.writeText(make.data.address).then(() => setCopied(true))}>
              {copied ? 'Copied' : 'Copy it'}
            </Button>
          </>
        )}
      </div>
    </Modal>
  )
}
