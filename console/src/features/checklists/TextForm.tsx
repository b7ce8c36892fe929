import { Textarea } from '@mantine/core'
import { useRef } from 'react'
import type { Fault } from './queries'

type Props = { text: string; faults: readonly Fault[]; readOnly: boolean; change: (text: string) => void }

/** The same checklist as text; a fault leads to its line. */
export function TextForm({ text, faults, readOnly, change }: Props) {
  const area = useRef<HTMLTextAreaElement>(null)
  const numbers = useRef<HTMLPreElement>(null)
  const goTo = (line: number) => {
    const lines = text.split('\n')
    const from = lines.slice(0, line - 1).reduce((sum, l) => sum + l.length + 1, 0)
    area.current?.focus({ preventScroll: true })
    area.current?.setSelectionRange(from, from + (lines[line - 1]?.length ?? 0))
    numbers.current?.children[line - 1]?.scrollIntoView({ block: 'center' })
  }
  return (
    <>
      <div className="numbered">
        <pre ref={numbers} aria-hidden="true" className="mono yaml line-numbers">
          {text.split('\n').map((_, i) => {
            const faulty = faults.some((f) => f.line === i + 1)
            return (
              // biome-ignore lint/suspicious/noArrayIndexKey: a line is its number
              <span key={i} className={faulty ? 'faulty' : undefined}>
                {i + 1}
                {'\n'}
              </span>
            )
          })}
        </pre>
        <Textarea
          ref={area}
          aria-label="Checklist as YAML"
          value={text}
          onChange={(e) => change(e.currentTarget.value)}
          readOnly={readOnly}
          autosize
          minRows={18}
          spellCheck={false}
          wrap="off"
          classNames={{ input: 'mono yaml' }}
          aria-invalid={faults.length > 0}
        />
      </div>
      {faults.length > 0 && (
        <div role="status">
          <ul className="missing problem">
            {faults.map(({ line, words }) => (
              <li key={`${line} ${words}`}>
                {line !== null && (
                  <button type="button" className="quiet" onClick={() => goTo(line)}>
                    Line {line}
                  </button>
                )}{' '}
                {words}
              </li>
            ))}
          </ul>
        </div>
      )}
    </>
  )
}
