import { Checkbox } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { bytesText } from '../../shared/amounts'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import type { Listed } from './queries'

/** One snag: whose, which file, what happened, what may be done. */
export function SnagRow({ s, chosen, toggle }: { s: Listed; chosen: boolean; toggle?: () => void }) {
  const clock = useClock()
  return (
    <tr>
      {toggle && (
        <td>
          <Checkbox size="xs" aria-label={`Choose ${visible(s.snag.path)} of ${s.name}`} checked={chosen} onChange={toggle} />
        </td>
      )}
      <th scope="row">
        <Link to="/swaps/$swap" params={{ swap: s.snag.swap }}>
          {s.name}
        </Link>
        <small className="soft">
          {s.site}
          {s.room ? `, ${s.room}` : ''}
        </small>
      </th>
      <td>
        <span className="mono path">{visible(s.snag.path)}</span>
        <small className="soft">
          {[s.snag.bytes ? bytesText(s.snag.bytes) : '', s.snag.side === 'new' ? 'at the restore' : 'at a trip', clock.full(s.snag.at)]
            .filter(Boolean)
            .join(' · ')}
        </small>
      </td>
      <td>{s.snag.reason}</td>
      <td>
        {s.snag.end === 'open' ? (
          <>
            {s.counsel}
            {s.ways.includes('source') && (
              <small>
                <Link to="/swaps/$swap" params={{ swap: s.snag.swap }}>
                  Say what it is
                </Link>
              </small>
            )}
            {s.isBusy && <small className="soft">An order is under way there.</small>}
          </>
        ) : (
          <>
            {s.snag.end === 'waived'
              ? `${s.snag.kind === 'sourceDoubted' ? 'Answered' : 'Waived'} by ${s.snag.endedBy}: ${s.snag.endReason}`
              : `Carried by ${s.snag.endedBy}`}
            {s.snag.endedAt && <small className="soft">{clock.full(s.snag.endedAt)}</small>}
          </>
        )}
      </td>
    </tr>
  )
}
