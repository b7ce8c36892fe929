import type { Schemas } from '../api/client'

type Amount = Schemas['Amount']
export type FolderLine = { path: string; old: Amount; inDepot: Amount; onNew: Amount | null }

const sum = (amounts: Amount[]): Amount => ({
  files: amounts.reduce((all, a) => all + a.files, 0),
  bytes: amounts.reduce((all, a) => all + a.bytes, 0),
})

/** Whether a folder is one that programs keep their settings in, and no person looks into. */
export const isHidden = (path: string) => path.startsWith('.') && path !== '.'

/** Folders as a person thinks of them: what programs keep for themselves is one line, what is empty none. */
export function foldersOf(account: Schemas['FolderAccount'][], settings: string): FolderLine[] {
  const lines = account
    .filter((f) => f.old.files > 0 || f.inDepot.files > 0)
    .map((f) => ({ path: f.folder, old: f.old, inDepot: f.inDepot, onNew: f.onNew ?? null }))
  const hidden = lines.filter((f) => isHidden(f.path))
  if (hidden.length === 0) return lines
  const arrived = hidden.map((f) => f.onNew).filter((a) => a !== null)
  return [
    ...lines.filter((f) => !isHidden(f.path)),
    {
      path: settings,
      old: sum(hidden.map((f) => f.old)),
      inDepot: sum(hidden.map((f) => f.inDepot)),
      onNew: arrived.length > 0 ? sum(arrived) : null,
    },
  ]
}
