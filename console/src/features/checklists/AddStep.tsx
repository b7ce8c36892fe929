import { Button, TextInput } from '@mantine/core'
import { type FormEvent, useState } from 'react'
import { phaseWords } from './words'

/** A new step at the end of a phase; all else about it is said on its card. */
export function AddStep({ phase, add }: { phase: string; add: (title: string) => void }) {
  const [title, setTitle] = useState('')
  const send = (event: FormEvent) => {
    event.preventDefault()
    if (title.trim() === '') return
    add(title.trim())
    setTitle('')
  }
  return (
    <form className="add-step" onSubmit={send}>
      <TextInput
        aria-label={`New step: ${phaseWords[phase]}`}
        placeholder="What is to be done"
        size="xs"
        maxLength={200}
        value={title}
        onChange={(e) => setTitle(e.currentTarget.value)}
      />
      <Button type="submit" size="xs" variant="default" disabled={title.trim() === ''}>
        Add step
      </Button>
    </form>
  )
}
