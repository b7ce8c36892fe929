import { Checkbox } from '@mantine/core'
import { useState } from 'react'
import { byCause, someOf } from '../../shared/causes'
import { visible } from '../../shared/visible'
import type { Listed } from './queries'
import { SnagRow } from './SnagRow'

type Props = {
  snags: Listed[]
  /** Somebody looks for a person or a path: each stands by itself. */
  each: boolean
  chosen: ReadonlySet<string>
  /** Absent: nothing can be chosen. */
  choose?: (ids: string[], isChosen: boolean) => void
}

const causeOf = ({ snag, counsel }: Listed) => `${snag.kind} ${snag.side} ${snag.reason} ${counsel}`

/** The rows of the table: what has one cause is one line that opens, and stays open whichever of them ends. */
export function SnagCauses({ snags, each, chosen, choose }: Props) {
  return byCause(snags, (s) => (each || s.snag.end !== 'open' ? s.snag.id : causeOf(s))).map((of) =>
    of.length === 1 ? (
      <SnagRow
        key={of[0].snag.id}
        s={of[0]}
        chosen={chosen.has(of[0].snag.id)}
        toggle={choose && (() => choose([of[0].snag.id], !chosen.has(of[0].snag.id)))}
      />
    ) : (
      <Cause key={causeOf(of[0])} snags={of} chosen={chosen} choose={choose} />
    ),
  )
}

function Cause({ snags, chosen, choose }: { snags: [Listed, ...Listed[]] } & Omit<Props, 'snags' | 'each'>) {
  const [open, setOpen] = useState(false)
  const [first] = snags
  const ids = snags.map((s) => s.snag.id)
  const picked = ids.filter((id) => chosen.has(id)).length
  const people = snags.map((s) => s.name)
  return (
    <>
      <tr>
        {choose && (
          <td>
            <Checkbox
              size="xs"
              aria-label={`Choose all ${snags.length} of this cause`}
              checked={picked === snags.length}
              indeterminate={picked > 0 && picked < snags.length}
              onChange={(e) => choose(ids, e.currentTarget.checked)}
            />
          </td>
        )}
        <th scope="row">
          <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? '▾' : '▸'} {snags.length} of one cause
          </button>
          <small className="soft">{someOf(people)}</small>
        </th>
        <td>
          <span className="mono path">
            {someOf(
              snags.map((s) => visible(s.snag.path)),
              1,
            )}
          </span>
        </td>
        <td>{first.snag.reason}</td>
        <td>{first.counsel}</td>
      </tr>
      {open &&
        snags.map((s) => (
          <SnagRow
            key={s.snag.id}
            s={s}
            chosen={chosen.has(s.snag.id)}
            toggle={choose && (() => choose([s.snag.id], !chosen.has(s.snag.id)))}
          />
        ))}
    </>
  )
}
