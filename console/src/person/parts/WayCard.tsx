import { wagonShare } from '../../shared/Line'
import type { Page } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'

type Station = 'told' | 'surveyed' | 'booked' | 'staged' | 'swapped' | 'restored' | 'accepted' | 'handedIn'

/** The line of the change, downwards: behind solid, ahead dotted, the wagon where it is. */
export function WayCard({ page }: { page: Page }) {
  const { w, moment, bytes } = useVoice()
  const { swap } = page
  return (
    <Card title={w.way.title}>
      <ol className="way">
        {swap.line.map((stop, i) => {
          const moves = i === swap.next && swap.moving
          return (
            <li key={stop.station} className={stop.at ? 'behind' : 'ahead'} aria-current={i === swap.next ? 'step' : undefined}>
              <span className="stop" aria-hidden="true">
                {stop.at ? '✓' : ''}
              </span>
              {moves && <span className="wagon" aria-hidden="true" style={{ top: `${-(1 - wagonShare(swap)) * 2.4}rem` }} />}
              <span>
                {w.way[stop.station as Station]}
                <span className="unseen">: {stop.at ? w.way.done : w.way.ahead}</span>
                {moves && moves.totalBytes > 0 && (
                  <span className="soft"> {w.way.moving(bytes(moves.bytes), bytes(moves.totalBytes))}</span>
                )}
              </span>
              <span className="soft when">{stop.at ? moment(stop.at) : stop.expected ? moment(stop.expected) : ''}</span>
            </li>
          )
        })}
      </ol>
    </Card>
  )
}
