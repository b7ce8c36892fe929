import type { OldComputer } from './queries'

export const stateSigns: Record<string, string> = {
  'in-use': 'ahead',
  held: 'ahead',
  'may-be-wiped': 'wants',
  wiped: 'done',
  'wipe-failed': 'stopped',
  missing: 'stopped',
  gone: 'done',
}

export const stateWords: Record<string, string> = {
  'in-use': 'in use',
  held: 'held',
  'may-be-wiped': 'may be wiped',
  wiped: 'wiped',
  'wipe-failed': 'could not be wiped',
  missing: 'missing',
  gone: 'gone',
}

/** The next thing there is to do with an old computer, in a sentence. */
export const nextWords = (o: OldComputer, day: (date: string) => string) =>
  o.end || o.state === 'in-use'
    ? ''
    : o.wipe?.result === 'done'
      ? `${o.wipe.method}; ${o.wipe.evidence}`
      : o.missing.length === 0
        ? 'nothing stands in the way'
        : o.missing.length === 1 && o.wipeFrom
          ? `held until ${day(o.wipeFrom)}`
          : (o.missing[0] ?? '')
