import { Button, Modal } from '@mantine/core'
import type { FormEvent, ReactNode } from 'react'
import { Failed } from '../../shared/States'

type Props = {
  title: string
  close: () => void
  /** What is done when the form is sent; what was refused stands under it, and nothing that was typed is lost. */
  change: { isError: boolean; error: unknown; isPending: boolean }
  send: () => void
  action: string
  ready?: boolean
  keep?: string
  color?: string
  centered?: boolean
  children: ReactNode
}

/** A question about one swap: what to fill in, what went wrong, and the two ways out. */
export function FormDialog({ title, close, change, send, action, ready = true, keep = 'Cancel', color, centered = true, children }: Props) {
  const submit = (event: FormEvent) => {
    event.preventDefault()
    send()
  }
  return (
    <Modal opened onClose={close} title={title} centered={centered} closeOnClickOutside={false}>
      <form onSubmit={submit} className="stack">
        {children}
        {change.isError && <Failed error={change.error} />}
        <div className="actions">
          <Button variant="default" onClick={close}>
            {keep}
          </Button>
          <Button type="submit" color={color} loading={change.isPending} disabled={!ready}>
            {action}
          </Button>
        </div>
      </form>
    </Modal>
  )
}
