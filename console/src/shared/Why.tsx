import { Popover } from '@mantine/core'
import type { ReactNode } from 'react'

/** A mark behind a sentence with what only somebody wants who asks for it: figures, numbers of rules. */
export function Why({ about, children }: { about: string; children: ReactNode }) {
  return (
    <Popover width={300} position="bottom-start" withArrow shadow="md" trapFocus returnFocus>
      <Popover.Target>
        <button type="button" className="quiet why-mark" aria-label={`Why: ${about}`}>
          why
        </button>
      </Popover.Target>
      <Popover.Dropdown>{children}</Popover.Dropdown>
    </Popover>
  )
}

/** Takes a reason apart: which rule says so, and what it says. */
export function reasonOf(text: string) {
  const found = /^(Rules? [\d, to]+(?:and \d+)?(?:, [^:]+)?): (.)(.*)$/s.exec(text)
  return found ? { rule: found[1], words: (found[2] ?? '').toUpperCase() + found[3] } : { rule: null, words: text }
}

/** A reason in words, with the rule that says so behind a mark. */
export function Reason({ text }: { text: string }) {
  const { rule, words } = reasonOf(text)
  return (
    <>
      {words} {rule && <Why about={words}>{rule}, as docs/formats.md numbers them.</Why>}
    </>
  )
}
