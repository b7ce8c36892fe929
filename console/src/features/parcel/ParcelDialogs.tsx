import { NativeSelect, Textarea, TextInput } from '@mantine/core'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { FormDialog } from './FormDialog'
import { useLanding, useParcelOrder, useRestoreSkip } from './queries'

type Plan = Schemas['LandingWanted']

export const clashes: Record<string, string> = {
  beside: 'both are kept, ours beside it',
  stay: 'what stands, stays',
  newer: 'the newer one is kept',
  ours: 'ours takes its place',
}

const moveLines = (moves: Schemas['LandingMove'][]) => moves.map((m) => `${m.from} = ${m.to}`).join('\n')
const toMoves = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)
    .map((l) => {
      const at = l.indexOf('=')
      return { from: (at < 0 ? l : l.slice(0, at)).trim(), to: at < 0 ? '' : l.slice(at + 1).trim() }
    })
const toLines = (text: string) =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean)

export function LandingDialog({ id, plan, close }: { id: string; plan: Plan; close: () => void }) {
  const put = useLanding(id)
  const [accounts, setAccounts] = useState(moveLines(plan.accounts))
  const [folders, setFolders] = useState(moveLines(plan.folders))
  const [first, setFirst] = useState(plan.first.join('\n'))
  const [clash, setClash] = useState(plan.clash)
  const [rules, setRules] = useState(plan.clashes.map((c) => `${c.folder} = ${c.rule}`).join('\n'))
  const send = () =>
    put.mutate(
      {
        accounts: toMoves(accounts),
        folders: toMoves(folders),
        first: toLines(first),
        clash,
        clashes: toMoves(rules).map((r) => ({ folder: r.from, rule: r.to })),
      },
      { onSuccess: close },
    )
  return (
    <FormDialog title="Where the parcel lands" close={close} change={put} send={send} action="Save" centered={false}>
      <Textarea
        label="Accounts with another name"
        description="old = new, one per line. The new home must be there."
        value={accounts}
        onChange={(e) => setAccounts(e.currentTarget.value)}
        autosize
        minRows={1}
        data-autofocus
      />
      <Textarea
        label="Folders that land elsewhere"
        description="Pictures = Archive/Pictures, one per line"
        value={folders}
        onChange={(e) => setFolders(e.currentTarget.value)}
        autosize
        minRows={1}
      />
      <Textarea
        label="What comes first"
        description="One per line, in order. It can be used while the rest still comes."
        value={first}
        onChange={(e) => setFirst(e.currentTarget.value)}
        autosize
        minRows={1}
      />
      <NativeSelect
        label="Where something else stands"
        value={clash}
        onChange={(e) => setClash(e.currentTarget.value)}
        data={Object.entries(clashes).map(([value, label]) => ({ value, label }))}
      />
      <Textarea
        label="Another rule for a folder"
        description="Documents = newer, one per line: beside, stay, newer or ours"
        value={rules}
        onChange={(e) => setRules(e.currentTarget.value)}
        autosize
        minRows={1}
      />
    </FormDialog>
  )
}

export function PartDialog({ id, close }: { id: string; close: () => void }) {
  const order = useParcelOrder(id, false)
  const [only, setOnly] = useState('')
  const send = () => order.mutate({ kind: 'part-restore', only: toLines(only) }, { onSuccess: close })
  return (
    <FormDialog
      title="Restore a part once more"
      close={close}
      change={order}
      send={send}
      action="Order it"
      ready={toLines(only).length > 0}
    >
      <p>
        Folders or files of the parcel come to the new computer, by the same landing plan. What stands there already stays or is kept
        beside; the account does not change.
      </p>
      <Textarea
        label="Which?"
        description="As the parcel has them, one per line: Documents/Tide tables"
        value={only}
        onChange={(e) => setOnly(e.currentTarget.value)}
        required
        autosize
        minRows={2}
        data-autofocus
      />
    </FormDialog>
  )
}

export function AdoptDialog({ id, close, named = '' }: { id: string; close: () => void; named?: string }) {
  const order = useParcelOrder(id, false)
  const [folder, setFolder] = useState(named)
  const send = () => order.mutate({ kind: 'adopt', folder: folder.trim() }, { onSuccess: close })
  return (
    <FormDialog title="Adopt a folder" close={close} change={order} send={send} action="Order it" ready={!!folder.trim()}>
      <p>
        The hand at the old computer copies the folder into this swap's parcel and sets it against the computer: what is there, what
        differs, what is missing. The next trip brings the rest. The folder itself stays where it is; remove it once the parcel is verified.
      </p>
      <TextInput
        label="Folder in the depot"
        description="As it lies there: Old shares/Ida"
        value={folder}
        onChange={(e) => setFolder(e.currentTarget.value)}
        required
        data-autofocus
      />
    </FormDialog>
  )
}

export function SkipDialog({ id, close }: { id: string; close: () => void }) {
  const put = useRestoreSkip(id)
  const [reason, setReason] = useState('')
  const send = () => put.mutate({ reason: reason.trim() }, { onSuccess: close })
  return (
    <FormDialog title="Restore nothing" close={close} change={put} send={send} action="Restore nothing" ready={!!reason.trim()}>
      <p>
        The parcel stays in the depot as long as it is held, and parts of it can still be restored. It is your decision, with your name; the
        last look at the new computer tells what is not there.
      </p>
      <Textarea
        label="Why is nothing restored?"
        value={reason}
        onChange={(e) => setReason(e.currentTarget.value)}
        maxLength={500}
        required
        autosize
        minRows={2}
        data-autofocus
      />
    </FormDialog>
  )
}

export function PurgeDialog({ id, parcel, close }: { id: string; parcel: string; close: () => void }) {
  const order = useParcelOrder(id, false)
  const [confirm, setConfirm] = useState('')
  const send = () => order.mutate({ kind: 'purge', confirm: confirm.trim() }, { onSuccess: close })
  return (
    <FormDialog
      title="Purge the parcel"
      close={close}
      change={order}
      send={send}
      action="Purge"
      ready={confirm.trim() === parcel}
      keep="Keep it"
      color="red"
    >
      <p>
        The staged copy is removed from the depot by a hand, which proves by listing that nothing is left. It cannot be taken back. Type its
        name: <span className="mono">{parcel}</span>
      </p>
      <TextInput label="Name of the parcel" value={confirm} onChange={(e) => setConfirm(e.currentTarget.value)} required data-autofocus />
    </FormDialog>
  )
}
