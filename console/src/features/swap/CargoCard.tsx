import { Button, Modal, NativeSelect, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { bytesText, countText, filesText } from '../../shared/amounts'
import { Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import { FolderPicker } from './FolderPicker'
import { carryListQuery, inventoryQuery, useCarryList } from './queries'

type Place = Schemas['PlaceFound']
type Line = Schemas['CarryLine']

const at = (p: Place) => [p.home, p.path].filter(Boolean).join('/')
const kinds: Record<Place['kind'], string> = {
  folder: 'folder',
  browser: 'browser',
  mail: 'mail',
  settings: 'settings',
  library: 'library, whole',
  cloud: 'a cloud’s folder',
  clutter: 'clutter',
  unusual: 'ask about it',
}

/** What the survey found on the old computer, and what of it comes along. */
export function CargoCard({ seen, works }: { seen: SwapSeen; works: boolean }) {
  const has = (station: string) => seen.swap.line.some((stop) => stop.station === station && stop.at)
  const surveyed = has('surveyed')
  const decides = works && !has('restored')
  const inventory = useQuery({ ...inventoryQuery(seen.swap.id), enabled: surveyed })
  const list = useQuery({ ...carryListQuery(seen.swap.id), enabled: surveyed })
  const [leaving, setLeaving] = useState<string | null>(null)
  const [picks, setPicks] = useState(false)
  const [showsSmall, setShowsSmall] = useState(false)
  if (!surveyed || inventory.isPending || list.isPending) return null
  if (list.isError) return <Failed error={list.error} retry={() => list.refetch()} />
  if (inventory.isError) return null
  const { places, remarks, programs } = inventory.data
  const { lines, review, first } = list.data
  const lineOf = (path: string) => lines.find((l) => l.path === path)
  const own = lines.filter((l) => l.by && !places.some((p) => at(p) === l.path))
  const clutter = places.filter((p) => p.kind === 'clutter')
  const shown = showsSmall ? places : places.filter((p) => p.kind !== 'clutter' || lineOf(at(p))?.by)
  return (
    <section className="card" aria-labelledby="cargo">
      <div className="card-head">
        <h2 id="cargo">What comes along</h2>
        <Grown seen={inventory.data} />
      </div>
      <p className={review.fits ? 'verdict' : 'verdict sign-stopped'}>
        {!review.fits && <span aria-hidden="true">■ </span>}
        {review.words}
      </p>
      {remarks.length > 0 && (
        <ul className="changes" aria-label="To know before carrying">
          {remarks.map((r) => (
            <li key={r}>
              <span className="sign-wants" aria-hidden="true">
                ▲
              </span>{' '}
              {r}
            </li>
          ))}
        </ul>
      )}
      <div className="table-scroll" tabIndex={0} role="region" aria-label="Places">
        <table className="account cargo">
          <thead>
            <tr>
              <th scope="col">Place</th>
              <th scope="col">Files</th>
              <th scope="col">Size</th>
              <th scope="col">Comes along</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((p) => (
              <tr key={`${p.account}${p.kind}${p.rule}${p.path}`}>
                <th scope="row">
                  {p.account && <span className="soft">{p.account} </span>}
                  {visible(p.path) || 'Beside the folders'}
                  <small className="soft">
                    <span className="phone-only">{bytesText(p.files.bytes)} · </span>
                    {[
                      p.name === p.path ? '' : p.name,
                      p.kind === 'folder' ? '' : kinds[p.kind],
                      p.newest ? `changed ${p.newest.slice(0, 10)}` : '',
                    ]
                      .filter(Boolean)
                      .join(' · ')}
                  </small>
                </th>
                <td>{countText(p.files.files)}</td>
                <td className="soft">{bytesText(p.files.bytes)}</td>
                <td>
                  <Choice
                    swap={seen.swap.id}
                    path={at(p)}
                    line={lineOf(at(p))}
                    stays={p.isLeftOut ?? false}
                    works={decides && at(p) !== ''}
                    leave={() => setLeaving(at(p))}
                  />
                </td>
              </tr>
            ))}
            {own.map((l) => (
              <tr key={l.path}>
                <th scope="row">
                  {visible(l.path)}
                  <small className="soft">decided by {l.by}</small>
                </th>
                <td>{countText(l.files?.files ?? 0)}</td>
                <td className="soft">{l.files ? bytesText(l.files.bytes) : 'size not known yet'}</td>
                <td>
                  <Choice swap={seen.swap.id} path={l.path} line={l} stays={false} works={decides} leave={() => setLeaving(l.path)} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="actions">
        {clutter.length > 0 && (
          <button type="button" className="quiet" aria-expanded={showsSmall} onClick={() => setShowsSmall(!showsSmall)}>
            {showsSmall ? 'Hide' : 'Show'} {clutter.length === 1 ? 'the clutter' : `${clutter.length} places with clutter`} (
            {filesText(clutter.reduce((sum, p) => sum + p.files.files, 0))})
          </button>
        )}
        {decides && (
          <>
            <Button size="compact-sm" variant="default" onClick={() => setPicks(true)}>
              Pick folders…
            </Button>
            <Button size="compact-sm" variant="default" onClick={() => setLeaving('')}>
              Leave another folder…
            </Button>
          </>
        )}
      </div>
      {first.length > 0 && <p className="soft">Restored first: {first.join(', then ')}.</p>}
      {programs.length > 0 && (
        <details>
          <summary>{programs.length === 1 ? '1 program is' : `${programs.length} programs are`} installed</summary>
          <ul className="programs">
            {programs.map((p) => (
              <li key={p.name + p.version}>
                {visible(p.name)} <span className="soft mono">{p.version}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
      {picks && <FolderPicker swap={seen.swap.id} list={list.data} close={() => setPicks(false)} />}
      {leaving !== null && <LeaveDialog swap={seen.swap.id} path={leaving} close={() => setLeaving(null)} />}
    </section>
  )
}

function Grown({ seen }: { seen: Schemas['InventorySeen'] }) {
  const clock = useClock()
  const by = seen.before ? seen.total.bytes - seen.before.total.bytes : 0
  return (
    <span className="soft">
      surveyed {clock.full(seen.at)}
      {seen.before && by !== 0 && `, ${by > 0 ? '+' : '−'}${bytesText(Math.abs(by))} since ${clock.full(seen.before.at)}`}
    </span>
  )
}

type ChoiceProps = { swap: string; path: string; line: Line | undefined; stays: boolean; works: boolean; leave: () => void }

/** Comes along, stays, or does not apply; who decided and why stand under it. */
function Choice({ swap, path, line, stays, works, leave }: ChoiceProps) {
  const change = useCarryList(swap)
  const choice = line?.choice ?? (stays ? 'leave-out' : 'carry')
  const words: Record<string, string> = { carry: 'comes along', 'leave-out': 'stays', 'not-applicable': 'does not apply' }
  const why = line?.by ? `${line.by}${line.reason ? `: ${line.reason}` : ''}` : undefined
  if (!works) return <span title={why}>{words[choice]}</span>
  return (
    <NativeSelect
      size="xs"
      aria-label={`${visible(path)}: comes along or stays`}
      description={why}
      inputWrapperOrder={['label', 'input', 'description', 'error']}
      value={choice}
      disabled={change.isPending}
      data={[
        ...Object.entries(words).map(([value, label]) => ({ value, label: value === 'leave-out' && choice !== value ? 'stays…' : label })),
        ...(line?.by ? [{ value: 'by-rule', label: 'as the rules say' }] : []),
      ]}
      onChange={(e) => {
        const to = e.currentTarget.value
        if (to === 'leave-out') leave()
        else change.mutate([{ path, choice: to }])
      }}
    />
  )
}

function LeaveDialog({ swap, path, close }: { swap: string; path: string; close: () => void }) {
  const change = useCarryList(swap, false)
  const [where, setWhere] = useState(path)
  const [reason, setReason] = useState('')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    change.mutate([{ path: where.trim().replace(/^\/+|\/+$/g, ''), choice: 'leave-out', reason }], { onSuccess: close })
  }
  return (
    <Modal
      opened
      onClose={close}
      title={path ? `Leave ${visible(path)} behind` : 'Leave a folder behind'}
      centered
      closeOnClickOutside={false}
    >
      <form onSubmit={submit} className="stack">
        {!path && (
          <TextInput
            label="Folder"
            description="From where carrying begins, such as Documents/Old"
            value={where}
            onChange={(e) => setWhere(e.currentTarget.value)}
            required
            data-autofocus
          />
        )}
        <Textarea
          label="Why does it stay?"
          description="Your name and the reason stay with the account, and the person sees them."
          value={reason}
          onChange={(e) => setReason(e.currentTarget.value)}
          required
          maxLength={500}
          autosize
          minRows={2}
          data-autofocus={path ? true : undefined}
        />
        {change.isError && <Failed error={change.error} />}
        <div className="actions">
          <Button variant="default" onClick={close}>
            Cancel
          </Button>
          <Button type="submit" loading={change.isPending} disabled={!where.trim() || !reason.trim()}>
            Leave it behind
          </Button>
        </div>
      </form>
    </Modal>
  )
}
