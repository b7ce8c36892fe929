import { type Document, isMap, isSeq, LineCounter, parseDocument, type YAMLMap, type YAMLSeq } from 'yaml'
import { keyOf } from '../refresh/keys'

/**
 * A checklist's text and its cards are the same thing: cards are read from the text, and what is done to a card is done to the text, in
 * which all else stays as it was written, remarks too; only blanks within brackets become the same everywhere.
 */
export type Fields = Readonly<Record<string, unknown>>

/** A step as the text has it. */
export type Card = {
  /** Its place in the text, from 0. */
  at: number
  /** Where it begins in the text, from 1. */
  line: number
  key: string
  phase: string
  fields: Fields
}

export type Sheet = { name: string; kinds: string[]; cards: Card[] }

export const phaseKeys = ['before', 'swap', 'after', 'hand-in']

/** What only steps of some kind have. */
const own: Record<string, string[]> = {
  scan: ['expects'],
  automatic: ['fact', 'programs', 'least'],
  number: ['unit', 'least', 'most'],
  choice: ['options', 'propose'],
  again: ['until'],
}

/** What a step of a kind cannot do without, until somebody says otherwise. */
const first: Record<string, Fields> = {
  scan: { expects: 'new' },
  automatic: { fact: 'surveyed' },
  choice: { options: ['yes', 'no'] },
  again: { until: 'nothing more is left' },
}

export const textOf = (value: unknown) => (typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '')
/** One text or a list of them, as a list. */
export const textsOf = (value: unknown): string[] =>
  Array.isArray(value) ? value.map(textOf).filter(Boolean) : [textOf(value)].filter(Boolean)

/** The cards of a text, in the order in which they are worked; null: it has faults that no card could show. */
export function readSheet(text: string): Sheet | null {
  const lines = new LineCounter()
  const doc = parseDocument(text, { lineCounter: lines })
  if (doc.errors.length > 0 || !isMap(doc.contents)) return null
  const steps = doc.get('steps')
  const items = isSeq(steps) ? steps.items : []
  if (!items.every((item) => isMap(item))) return null
  const cards = (items as YAMLMap[]).map((item, at) => {
    const fields = item.toJS(doc) as Fields
    return { at, line: lines.linePos(item.range?.[0] ?? 0).line, key: textOf(fields.key), phase: textOf(fields.phase), fields }
  })
  const rank = (card: Card) => Math.max(0, phaseKeys.indexOf(card.phase))
  return {
    name: textOf(doc.get('name')),
    kinds: textsOf((doc.toJS() as Fields).kinds),
    cards: cards.sort((a, b) => rank(a) - rank(b) || a.at - b.at),
  }
}

/** The card that a line of the text belongs to; undefined: none. */
export const cardAt = (sheet: Sheet, line: number) =>
  sheet.cards.filter((card) => card.line <= line).reduce<Card | undefined>((a, b) => (a && a.line > b.line ? a : b), undefined)

function edit(text: string, change: (doc: Document, steps: YAMLSeq) => void) {
  const doc = parseDocument(text)
  if (!isSeq(doc.get('steps'))) doc.set('steps', doc.createNode([]))
  change(doc, doc.get('steps') as YAMLSeq)
  return doc.toString({ lineWidth: 0, flowCollectionPadding: !/\[[^\s\]]/.test(text) })
}

const isNothing = (value: unknown) => value === undefined || value === '' || (Array.isArray(value) && value.length === 0)

function put(doc: Document, path: (string | number)[], value: unknown) {
  if (!isNothing(value)) {
    doc.setIn(path, Array.isArray(value) ? doc.createNode(value, { flow: true }) : value)
    return
  }
  doc.deleteIn(path)
  // What held only this goes with it: a condition that asks for nothing is none.
  const above = path.slice(0, -1)
  const holder = doc.getIn(above)
  if (['when', 'answers'].includes(String(above.at(-1))) && isMap(holder) && holder.items.length === 0) put(doc, above, undefined)
}

/** Name and kinds of the whole. */
export const setHead = (text: string, what: 'name' | 'kinds', value: unknown) => edit(text, (doc) => put(doc, [what], value))

/** One field of a step; nothing takes it out. */
export const setField = (text: string, at: number, path: string[], value: unknown) =>
  edit(text, (doc) => put(doc, ['steps', at, ...path], value))

/** Another kind: what only the one before had goes, and what this one needs comes. */
export const setKind = (text: string, at: number, kind: string) =>
  edit(text, (doc) => {
    const keeps = own[kind] ?? []
    for (const field of Object.values(own).flat()) if (!keeps.includes(field)) doc.deleteIn(['steps', at, field])
    if (kind !== 'tick' && kind !== 'confirmation') doc.deleteIn(['steps', at, 'who'])
    doc.setIn(['steps', at, 'kind'], kind)
    for (const [field, value] of Object.entries(first[kind] ?? {}))
      if (!doc.hasIn(['steps', at, field])) put(doc, ['steps', at, field], value)
  })

/** Another fact: what only the one before asked for goes. */
export const setFact = (text: string, at: number, fact: string) =>
  edit(text, (doc) => {
    for (const field of ['programs', 'least']) doc.deleteIn(['steps', at, field])
    doc.setIn(['steps', at, 'fact'], fact)
    if (fact === 'free-disk') doc.setIn(['steps', at, 'least'], 20)
  })

/** A new step at the end of a phase, with a key made from its title. */
export function addStep(text: string, phase: string, title: string) {
  const known = new Set(readSheet(text)?.cards.map((card) => card.key))
  let key = keyOf(title)
  for (let turn = 2; known.has(key); turn++) key = keyOf(title, turn)
  return { key, text: edit(text, (doc, steps) => steps.add(doc.createNode({ key, phase, title, kind: 'tick' }))) }
}

export const removeStep = (text: string, at: number) => edit(text, (doc) => doc.deleteIn(['steps', at]))

/** Moves a step to where another one is, into its phase; the one that was there makes room. */
export const moveStep = (text: string, from: Card, over: Card, isAfter: boolean) =>
  edit(text, (doc, steps) => {
    const [step] = steps.items.splice(from.at, 1)
    const there = over.at - (from.at < over.at ? 1 : 0) + (isAfter ? 1 : 0)
    steps.items.splice(there, 0, step)
    doc.setIn(['steps', there, 'phase'], over.phase)
  })

/** Titles of the steps that ask for the answer of another one. */
export const askers = (sheet: Sheet, key: string) =>
  sheet.cards.filter((card) => key in answersOf(card)).map((card) => textOf(card.fields.title))

/** What a step's condition asks of earlier ones: answers by their key. */
export const answersOf = (card: Card): Record<string, unknown> => {
  const when = card.fields.when
  const answers = when && typeof when === 'object' ? (when as Fields).answers : undefined
  return answers && typeof answers === 'object' ? (answers as Record<string, unknown>) : {}
}

/** A list that a condition names. */
export const askedOf = (card: Card, what: string): string[] => {
  const when = card.fields.when
  return when && typeof when === 'object' ? textsOf((when as Fields)[what]) : []
}
