import { type PointerEvent, useRef, useState } from 'react'

const wide = 320
const high = 120
const most = 20_000

/** A place to sign with finger, pen or mouse; strokes come out as the data of an SVG path. */
export function Drawing({ path, change }: { path: string; change: (path: string) => void }) {
  const pad = useRef<SVGSVGElement>(null)
  const [draws, setDraws] = useState(false)
  const at = (event: PointerEvent) => {
    const box = pad.current?.getBoundingClientRect()
    if (!box) return ''
    const x = ((event.clientX - box.left) / box.width) * wide
    const y = ((event.clientY - box.top) / box.height) * high
    return `${Math.round(x * 10) / 10} ${Math.round(y * 10) / 10}`
  }
  return (
    <div>
      <svg
        ref={pad}
        className="drawing"
        viewBox={`0 0 ${wide} ${high}`}
        role="img"
        aria-label={path ? 'Drawn signature' : 'Nothing is drawn yet'}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture?.(event.pointerId)
          setDraws(true)
          change(`${path}${path ? ' ' : ''}M${at(event)}`.slice(0, most))
        }}
        onPointerMove={(event) => {
          const more = `${path} L${at(event)}`
          if (draws && more.length <= most) change(more)
        }}
        onPointerUp={() => setDraws(false)}
        onPointerCancel={() => setDraws(false)}
      >
        <line x1="16" x2={wide - 16} y1={high - 26} y2={high - 26} className="drawing-line" />
        <path d={path} />
      </svg>
      <button type="button" className="quiet" disabled={!path} onClick={() => change('')}>
        Clear the drawing
      </button>
    </div>
  )
}

/** A drawn signature as it was signed. */
export const Drawn = ({ path, by }: { path: string; by: string }) => (
  <svg className="drawn" viewBox={`0 0 ${wide} ${high}`} role="img" aria-label={`Drawn signature of ${by}`}>
    <path d={path} />
  </svg>
)
