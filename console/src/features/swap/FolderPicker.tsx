import { Button, Modal, SegmentedControl, TextInput } from '@mantine/core'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import { bytesText, countText, filesText } from '../../shared/amounts'
import { Coming, Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { foldersQuery, useCarryList } from './queries'

type Node = Schemas['FolderNode']
type Tree = Node & { name: string; inside: Tree[] }

/** Folders as a tree: each stands before what is in it. */
export function treeOf(nodes: Node[]): Tree[] {
  const [top, known] = [[] as Tree[], new Map<string, Tree>()]
  for (const node of nodes) {
    const slash = node.path.lastIndexOf('/')
    const tree = { ...node, name: node.path.slice(slash + 1), inside: [] as Tree[] }
    known.set(node.path, tree)
    ;(known.get(node.path.slice(0, Math.max(slash, 0)))?.inside ?? top).push(tree)
  }
  return top
}

/** The old computer's folders with their sizes, to pick what stays. The hand looks now; nothing of it is kept. */
export function FolderPicker({ swap, list, close }: { swap: string; list: Schemas['CarryListSeen']; close: () => void }) {
  const [since, setSince] = useState<string | null>(null)
  const [stays, setStays] = useState<string[]>([])
  const [comes, setComes] = useState<string[]>([])
  const [reason, setReason] = useState('')
  const [order, setOrder] = useState('size')
  const look = useMutation({
    mutationFn: () =>
      take(api.POST('/api/swaps/{swap}/orders', { params: { path: { swap } }, headers: repeatKey(), body: { kind: 'folders' } })),
    onSuccess: (given) => setSince(given.madeAt),
  })
  const folders = useQuery(foldersQuery(swap, since))
  const change = useCarryList(swap, false)
  const left = (path: string) =>
    list.lines.some((l) => l.choice !== 'carry' && (path === l.path || path.startsWith(`${l.path}/`)) && !comes.includes(l.path))
  const save = () =>
    change.mutate(
      [...stays.map((path) => ({ path, choice: 'leave-out', reason })), ...comes.map((path) => ({ path, choice: 'carry', reason: null }))],
      { onSuccess: close },
    )
  const toggle = (path: string) => {
    if (stays.includes(path)) setStays(stays.filter((p) => p !== path))
    else if (comes.includes(path)) setComes(comes.filter((p) => p !== path))
    else if (left(path)) setComes([...comes, path])
    else setStays([...stays.filter((p) => !p.startsWith(`${path}/`)), path])
  }
  const tree = folders.data ? treeOf(folders.data.folders) : []
  const bytes = stays.reduce((sum, path) => sum + (folders.data?.folders.find((f) => f.path === path)?.files.bytes ?? 0), 0)
  return (
    <Modal opened onClose={close} title="Pick folders" size="xl" closeOnClickOutside={false}>
      {since === null ? (
        <div className="stack">
          <p>
            The hand at the old computer looks at the folders and their sizes now. Their names are shown here and kept nowhere; only what
            you decide is.
          </p>
          {look.isError && <Failed error={look.error} />}
          <div className="actions">
            <Button variant="default" onClick={close}>
              Cancel
            </Button>
            <Button loading={look.isPending} onClick={() => look.mutate()} data-autofocus>
              Look at the folders
            </Button>
          </div>
        </div>
      ) : folders.isError ? (
        <Failed error={folders.error} retry={() => folders.refetch()} />
      ) : !folders.data ? (
        <div aria-live="polite">
          <p className="soft">The hand is looking. If it does not answer, see whether it runs; the order waits for it.</p>
          <Coming rows={6} />
        </div>
      ) : (
        <div className="stack">
          <SegmentedControl
            size="xs"
            aria-label="Order"
            value={order}
            onChange={setOrder}
            data={[
              { value: 'size', label: 'Largest first' },
              { value: 'age', label: 'Oldest first' },
            ]}
          />
          <div className="table-scroll picker" tabIndex={0} role="region" aria-label="Folders of the old computer">
            <table className="account">
              <thead>
                <tr>
                  <th scope="col">Folder</th>
                  <th scope="col">Files</th>
                  <th scope="col">Size</th>
                  <th scope="col">Changed</th>
                  <th scope="col">Stays</th>
                </tr>
              </thead>
              <tbody>
                <Rows nodes={tree} depth={0} order={order} stays={stays} comes={comes} left={left} toggle={toggle} />
              </tbody>
            </table>
          </div>
          {folders.data.deeper > 0 && (
            <p className="soft">
              {filesText(folders.data.deeper).replace('files', 'folders').replace('file', 'folder')} lie deeper and count in theirs.
            </p>
          )}
          {stays.length > 0 && (
            <TextInput
              label={`Why ${stays.length === 1 ? 'does this folder' : `do these ${stays.length} folders`} (${bytesText(bytes)}) stay?`}
              description="Your name and the reason stay with the account, and the person sees them."
              value={reason}
              onChange={(e) => setReason(e.currentTarget.value)}
              maxLength={500}
              required
            />
          )}
          {change.isError && <Failed error={change.error} />}
          <div className="actions">
            <Button variant="default" onClick={close}>
              Cancel
            </Button>
            <Button
              loading={change.isPending}
              disabled={stays.length + comes.length === 0 || (stays.length > 0 && !reason.trim())}
              onClick={save}
            >
              Save
            </Button>
          </div>
        </div>
      )}
    </Modal>
  )
}

type RowsProps = {
  nodes: Tree[]
  depth: number
  order: string
  stays: string[]
  comes: string[]
  left: (path: string) => boolean
  toggle: (path: string) => void
}

function Rows({ nodes, depth, order, ...rest }: RowsProps) {
  const sorted = order === 'age' ? [...nodes].sort((a, b) => (a.newest ?? '9').localeCompare(b.newest ?? '9')) : nodes
  return sorted.map((node) => <Row key={node.path} node={node} depth={depth} order={order} {...rest} />)
}

function Row({ node, depth, ...rest }: { node: Tree; depth: number } & Omit<RowsProps, 'nodes' | 'depth'>) {
  const [open, setOpen] = useState(depth === 0 && node.inside.length > 0 && node.inside.length < 12)
  const { stays, comes, left, toggle } = rest
  const within = stays.some((p) => node.path.startsWith(`${p}/`))
  const off = within || stays.includes(node.path) || (left(node.path) && !comes.includes(node.path))
  return (
    <>
      <tr className={off ? 'soft' : ''}>
        <th scope="row" style={{ paddingLeft: `${depth * 1.1 + 0.3}rem` }}>
          {node.inside.length > 0 ? (
            <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
              <span aria-hidden="true">{open ? '▾' : '▸'}</span> {visible(node.name)}
            </button>
          ) : (
            <span className="leaf">{visible(node.name)}</span>
          )}
          {node.smaller > 0 && <small className="soft">and {countText(node.smaller)} smaller</small>}
        </th>
        <td>{countText(node.files.files)}</td>
        <td>{bytesText(node.files.bytes)}</td>
        <td className="soft">{node.newest?.slice(0, 10) ?? ''}</td>
        <td>
          <input
            type="checkbox"
            aria-label={`${visible(node.path)} stays`}
            checked={off}
            disabled={within}
            onChange={() => toggle(node.path)}
          />
        </td>
      </tr>
      {open && <Rows nodes={node.inside} depth={depth + 1} {...rest} />}
    </>
  )
}
