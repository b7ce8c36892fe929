import { Input, Textarea } from '@mantine/core'
import { type ReactNode, useState } from 'react'

/** Fields for what is a line of text each, with the text as a second way; where a line is none that the fields know, the text alone. */
export function AsText<T>({
  label,
  help,
  required,
  value,
  read,
  write,
  set,
  children,
}: {
  label: string
  help?: string
  required?: boolean
  value: string
  read: (line: string) => T | null
  write: (item: T) => string
  set: (value: string) => void
  children: (items: T[], put: (items: T[]) => void) => ReactNode
}) {
  const written = value.split('\n').filter((l) => l.trim())
  const items = written.map(read)
  const known = items.every((i) => i !== null)
  const [asText, setAsText] = useState(!known)
  return (
    <Input.Wrapper label={label} required={required} labelElement="div">
      {asText || !known ? (
        <Textarea
          aria-label={label}
          description={help}
          value={value}
          autosize
          minRows={1}
          maxRows={8}
          onChange={(e) => set(e.currentTarget.value)}
        />
      ) : (
        <div className="field-lines">{children(items as T[], (next) => set(next.map(write).join('\n')))}</div>
      )}
      {known && (
        <button type="button" className="quiet" onClick={() => setAsText(!asText)}>
          {asText ? 'With fields' : 'As text'}
        </button>
      )}
    </Input.Wrapper>
  )
}
