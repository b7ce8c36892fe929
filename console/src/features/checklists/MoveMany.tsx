import { Radio } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { type Moves, useLookMoves, useMoveMany, usesQuery } from './queries'
import { changeWords } from './words'

type Props = { name: string; version: number; close: () => void }

const swaps = (n: number) => `${n} ${n === 1 ? 'swap' : 'swaps'}`

/** Which swaps take a newer version of their checklist: asked with counts, never done by itself. */
export function MoveMany({ name, version, close }: Props) {
  const refresh = useRefresh().key
  const uses = useQuery(usesQuery(refresh))
  const [begunToo, setBegunToo] = useState(false)
  const { mutate: lookAt, ...look } = useLookMoves(refresh)
  const move = useMoveMany(refresh)
  useEffect(() => lookAt({ template: name, version, begunToo }), [lookAt, name, version, begunToo])
  if (uses.isPending) return <Coming rows={2} />
  if (uses.isError) return <Failed error={uses.error} retry={() => uses.refetch()} />
  const older = uses.data.filter((u) => u.template === name && u.version < version)
  const [untouched, begun, signed] = (['untouched', 'begun', 'signed'] as const).map((of) => older.reduce((sum, u) => sum + u[of], 0))
  const count = look.data ? look.data.swaps + look.data.left : 0
  return (
    <FormDialog
      title={`Which swaps move to version ${version}?`}
      close={close}
      change={look.isError ? look : move}
      send={() => move.mutate({ template: name, version, begunToo }, { onSuccess: close })}
      action={count > 0 ? `Move ${swaps(count)}` : 'Move'}
      keep="None of them"
      ready={count > 0 && !look.isPending}
    >
      <Radio.Group value={begunToo ? 'begun' : 'untouched'} onChange={(v) => setBegunToo(v === 'begun')} label="Those that move">
        <div className="stack">
          <Radio value="untouched" label={`of which nothing was done yet: ${untouched}`} />
          <Radio value="begun" label={`those under way, too: ${begun} more`} disabled={begun === 0} />
        </div>
      </Radio.Group>
      <p className="soft">
        {signed === 0
          ? ''
          : `${swaps(signed ?? 0)} ${signed === 1 ? 'is' : 'are'} signed, and ${signed === 1 ? 'keeps' : 'keep'} what was signed. `}
        {look.data && look.data.notFor > 0 && `${swaps(look.data.notFor)} keep theirs: this version is not for their kind.`}
      </p>
      {look.data && count > 0 && <Changes moves={look.data} />}
    </FormDialog>
  )
}

function Changes({ moves }: { moves: Moves }) {
  return (
    <ul className="rows" aria-label="What changes">
      {moves.steps.map((s) => (
        <li key={`${s.key} ${s.what}`} className="plain">
          <strong>{changeWords[s.what] ?? s.what}:</strong> {s.title} <span className="soft">({swaps(s.swaps)})</span>
          {s.dealtWith > 0 && <span> For {s.dealtWith} what was said about it no longer counts; the history keeps it.</span>}
        </li>
      ))}
      {moves.steps.length === 0 && <li className="plain">Nothing changes for them.</li>}
      {moves.left > 0 && <li className="soft">Looked at {moves.swaps} of them.</li>}
    </ul>
  )
}
