import { describe, expect, it } from 'vitest'
import { addStep, type Card, cardAt, moveStep, readSheet, removeStep, type Sheet, setField, setKind } from './template'

const text = `# Ours, since spring.
name: Change of computer
kinds: [renew, second]
steps:
  - key: told
    phase: before
    title: Told
    kind: confirmation # they say so
  # The printer makes trouble.
  - key: printer
    phase: swap
    title: Printer
    kind: choice
    options: [prints, later]
    help: |
      Print **one** page.
      Look at it.
  - {key: again, phase: swap, title: Once more, kind: tick, when: {answers: {printer: later}}}
`
const sheet = (of: string) => readSheet(of) as Sheet
const titles = (of: string) => sheet(of).cards.map((c) => `${c.phase}: ${c.fields.title}`)
const card = (of: string, key: string) => sheet(of).cards.find((c) => c.key === key) as Card

describe('a checklist as cards', () => {
  it('keeps remarks, and the way in which all else is written', () => {
    const edited = setField(text, card(text, 'told').at, ['title'], 'Told in time')
    expect(edited).toBe(text.replace('title: Told\n', 'title: Told in time\n'))
  })

  it('takes out a condition with the last that it asked for', () => {
    expect(setField(text, 2, ['when', 'answers', 'printer'], [])).toContain('title: Once more, kind: tick}')
    expect(setField(text, 2, ['when', 'site'], ['North'])).toContain('when: {answers: {printer: later}, site: [North]}')
  })

  it('is another kind with what that needs, and without what only the one before had', () => {
    const tick = setKind(text, 1, 'tick')
    expect(tick).not.toContain('options')
    expect(card(setKind(tick, 1, 'again'), 'printer').fields.until).toBeTruthy()
  })

  it('moves over another into its phase, remark and all, to and fro', () => {
    const down = moveStep(text, card(text, 'told'), card(text, 'printer'), true)
    expect(titles(down)).toEqual(['swap: Printer', 'swap: Told', 'swap: Once more'])
    expect(down.indexOf('# The printer makes trouble.')).toBeLessThan(down.indexOf('key: printer'))
    const up = moveStep(down, card(down, 'again'), card(down, 'printer'), false)
    expect(titles(up)).toEqual(['swap: Once more', 'swap: Printer', 'swap: Told'])
  })

  it('gives a new step a key of its own, and takes one out again', () => {
    const one = addStep(text, 'after', 'Printer')
    const two = addStep(one.text, 'before', 'Printer')
    expect([one.key, two.key]).toEqual(['printer-2', 'printer-3'])
    expect(titles(two.text)).toContain('before: Printer')
    expect(titles(removeStep(two.text, card(two.text, 'printer-3').at))).toEqual(titles(one.text))
    expect(titles(addStep('name: Empty\n', 'swap', 'First').text)).toEqual(['swap: First'])
  })

  it('knows which card a line belongs to', () => {
    expect([4, 5, 8, 10, 16, 18].map((line) => cardAt(sheet(text), line)?.key)).toEqual([
      undefined,
      'told',
      'told',
      'printer',
      'printer',
      'again',
    ])
    expect(readSheet('name: [')).toBeNull()
  })
})
