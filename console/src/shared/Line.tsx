import type { SwapListed } from '../api/client'
import { Sign, signName } from './Sign'
import { useClock } from './zone'

const names: Record<string, string> = {
  told: 'Told',
  surveyed: 'Surveyed',
  booked: 'Booked',
  staged: 'Staged',
  swapped: 'Swapped',
  restored: 'Restored',
  accepted: 'Accepted',
  handedIn: 'Handed in',
}

/** How far the wagon is between the last stop behind and the next one, 0 to 1. */
export function wagonShare(swap: SwapListed): number {
  const { moving } = swap
  if (!moving) return 0
  if (moving.totalBytes > 0) return Math.min(1, moving.bytes / moving.totalBytes)
  return moving.totalFiles > 0 ? Math.min(1, moving.files / moving.totalFiles) : 0.08
}

export function lineWords(swap: SwapListed): string {
  const behind = swap.line.filter((stop) => stop.at).map((stop) => names[stop.station])
  const next = swap.line[swap.next]
  return `${behind.length ? `Behind: ${behind.join(', ')}.` : 'Nothing behind yet.'}${next ? ` Next: ${names[next.station]}.` : ' All stations reached.'}`
}

/** A swap's line: solid behind, dotted ahead, the wagon at its true fraction. Small in rows. */
export function SmallLine({ swap }: { swap: SwapListed }) {
  const gap = 20
  const width = gap * (swap.line.length - 1) + 12
  const x = (stop: number) => 6 + stop * gap
  const next = Math.min(swap.next, swap.line.length - 1)
  const reach =
    swap.next >= swap.line.length
      ? x(swap.line.length - 1)
      : swap.next === 0
        ? x(0)
        : x(swap.next - 1) + (swap.moving ? wagonShare(swap) * gap : 0)
  const sign = signName(swap.sign.sign)
  return (
    <svg className="line" width={width} height={16} viewBox={`0 0 ${width} 16`} role="img" aria-label={lineWords(swap)}>
      <line className="line-ahead" x1={x(0)} x2={x(swap.line.length - 1)} y1={8} y2={8} />
      {swap.next > 0 && <line className="line-behind" x1={x(0)} x2={reach} y1={8} y2={8} />}
      {swap.line.map((stop, i) => (
        <circle key={stop.station} className={stop.at ? 'stop-behind' : 'stop-ahead'} cx={x(i)} cy={8} r={3.4} />
      ))}
      {swap.moving && <rect className="wagon" x={-7} y={4} width={14} height={8} rx={4} style={{ transform: `translateX(${reach}px)` }} />}
      {!swap.moving && sign === 'wants' && (
        <path className="wants" d="M-5 4 L0 -5 L5 4 Z" style={{ transform: `translate(${Math.max(reach, x(next) - gap / 2)}px, 8px)` }} />
      )}
      {!swap.moving && sign === 'stopped' && (
        <rect
          className="stopped"
          x={-4}
          y={-4}
          width={8}
          height={8}
          style={{ transform: `translate(${Math.max(reach, x(next) - gap / 2)}px, 8px)` }}
        />
      )}
    </svg>
  )
}

/** The same line large, with the time at each station: happened, or expected in a lighter weight. */
export function LargeLine({ swap }: { swap: SwapListed }) {
  const clock = useClock()
  const last = swap.line.length - 1
  const share = swap.next === 0 ? 0 : (Math.min(swap.next, swap.line.length) - 1 + (swap.moving ? wagonShare(swap) : 0)) / last
  return (
    <div className="large-line">
      <p className="unseen">{lineWords(swap)}</p>
      <ol aria-hidden="true" style={{ '--stops': last, '--reach': share } as React.CSSProperties}>
        {swap.line.map((stop, i) => (
          <li key={stop.station} className={stop.at ? 'behind' : i === swap.next ? 'next' : 'ahead'}>
            <span className="stop" />
            <span className="station">{names[stop.station]}</span>
            <span className={stop.at ? 'when' : 'when expected'}>
              {stop.at ? clock.short(stop.at) : stop.expected ? clock.short(stop.expected) : ''}
            </span>
          </li>
        ))}
        {swap.moving && <span className="wagon" />}
      </ol>
      <p className="line-words">
        <Sign sign={swap.sign.sign} /> {swap.sign.words}
      </p>
    </div>
  )
}
