import type { Schemas } from '../../api/client'
import type { words } from '../../shared/words'
import { keyOf } from '../refresh/keys'

export type World = Schemas['WorldSeen']

export type Field = {
  key: string
  label: string
  help?: string
  /** text; lines: one per line; swaps: ids, each with whose it is, one per line; number; flag of nothing: the key of the thing, fixed once it is there. */
  as:
    | 'key'
    | 'text'
    | 'lines'
    | 'number'
    | 'date'
    | 'moment'
    | 'secret'
    | 'site'
    | 'sites'
    | 'depot'
    | 'scope'
    | 'yes'
    | 'swaps'
    | 'shift'
    | 'shifts'
    | 'span'
    | 'spans'
  needed?: boolean
}

export type Values = Record<string, string>

/** A kind of thing of the world: how it is shown, edited, put and taken out. */
export type Thing = {
  name: string
  one: string
  why: string
  /** A word of ours that stands in it. */
  word?: keyof typeof words
  rows: (world: World) => { key: string; cells: string[]; values: Values }[]
  heads: string[]
  fields: Field[]
  fresh: Values
  /** The key of a new one, from what was typed; left out: the key is typed. Of sites it is the name, as lists of people have it. */
  keyFrom?: (values: Values, taken: string[]) => string
  put: (refresh: string, values: Values) => Promise<unknown>
  drop?: (refresh: string, key: string) => Promise<unknown>
}

/** A key from the name that none has yet. */
export const keyFromName = (values: Values, taken: string[]) => {
  let turn = 1
  while (taken.includes(keyOf(values.name ?? '', turn))) turn++
  return keyOf(values.name ?? '', turn)
}

export const lines = (text: string | undefined) =>
  (text ?? '')
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
export const number = (text: string | undefined) => (text?.trim() ? Number(text) : null)
export const gigabytes = (bytes: number | null | undefined) => (bytes == null ? '' : String(bytes / 1e9))
export const bytes = (text: string | undefined) => (text?.trim() ? Math.round(Number(text) * 1e9) : null)
export const key: Field = { key: 'key', label: 'Key', help: 'Short, for the command line and files', as: 'key', needed: true }
export const name: Field = { key: 'name', label: 'Name', as: 'text', needed: true }
export const at = (refresh: string, k: string | undefined) => ({ params: { path: { refresh, key: k ?? '' } } })
