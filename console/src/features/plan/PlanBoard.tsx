import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef } from 'react'
import type { Schemas } from '../../api/client'
import { AwayBlock } from '../../shared/AwayBlock'
import { dayOf, instantOf } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useOversees } from '../session/queries'
import { type Appointment, type Move, trialQuery } from './queries'

const minute = 60_000
const grid = 15

/** A visit that is being held over the board: where it would be put. */
export type Held = { swap: string; isBench: boolean; person: string; technician: string; start: number; grab: number }

export const keyOf = (a: { swap: string; isBench: boolean }) => `${a.swap}${a.isBench ? '/bench' : ''}`

/** Puts visits into lanes so that those under way at once stand below each other. */
export function stack<T extends { start: string; end: string }>(visits: T[]): T[][] {
  const lanes: T[][] = []
  for (const visit of [...visits].sort((a, b) => Date.parse(a.start) - Date.parse(b.start))) {
    const lane = lanes.find((l) => Date.parse(l[l.length - 1]?.end ?? '') <= Date.parse(visit.start))
    if (lane) lane.push(visit)
    else lanes.push([visit])
  }
  return lanes
}

type Props = {
  refresh: string
  day: string
  technicians: Schemas['TechnicianSeen'][]
  visits: Appointment[]
  /** Who is away when. */
  absences: Schemas['AwaySeen'][]
  version: number
  canMove: boolean
  held: Held | null
  hold: (held: Held | null) => void
  put: (move: Move) => void
  chosen: string | null
  choose: (key: string) => void
  hours: { from: number; until: number }
}

/** A working day: a row for each technician, visits with their three parts, to be taken and put elsewhere. */
export function PlanBoard(props: Props) {
  const oversees = useOversees()
  const { refresh, day, technicians, visits, absences, version, canMove, held, hold, put, chosen, choose, hours } = props
  const clock = useClock()
  const field = useRef<HTMLDivElement>(null)
  const rows = useRef(new Map<string, HTMLDivElement>())
  const from = instantOf(day, hours.from * 60, clock.zone)
  const span = (hours.until - hours.from) * 60 * minute
  const at = (time: number) => `${((time - from) / span) * 100}%`
  const move: Move | null = held
    ? { swap: held.swap, isBench: held.isBench, technician: held.technician, start: new Date(held.start).toISOString() }
    : null
  const trial = useQuery(trialQuery(refresh, version, move))
  const answer = trial.data
  const byTechnician = useMemo(() => {
    const groups = new Map<string, Appointment[]>()
    for (const v of visits) groups.set(v.technician, [...(groups.get(v.technician) ?? []), v])
    return groups
  }, [visits])

  // What is held follows the pointer wherever it goes, and is put down where it is let go.
  const state = useRef({ held, move, answer })
  state.current = { held, move, answer }
  const dragging = useRef<{ x: number; y: number; visit: Appointment } | null>(null)
  const place = (x: number, y: number, grab: number) => {
    const box = field.current?.getBoundingClientRect()
    if (!box) return null
    const start = Math.round(((x - box.left) / box.width) * (span / minute / grid) - grab / grid) * grid
    const technician = technicians.find((t) => {
      const row = rows.current.get(t.key)?.getBoundingClientRect()
      return row && y >= row.top && y < row.bottom
    })
    return { start: from + start * minute, technician: technician?.key }
  }
  const onMove = (event: React.PointerEvent) => {
    const drag = dragging.current
    if (!drag) return
    if (!held && Math.hypot(event.clientX - drag.x, event.clientY - drag.y) < 5) return
    const grab = (instantAt(drag.x) - Date.parse(drag.visit.start)) / minute
    const to = place(event.clientX, event.clientY, grab)
    if (!to) return
    hold({
      swap: drag.visit.swap,
      isBench: drag.visit.isBench,
      person: drag.visit.person,
      technician: to.technician ?? state.current.held?.technician ?? drag.visit.technician,
      start: to.start,
      grab,
    })
  }
  const instantAt = (x: number) => {
    const box = field.current?.getBoundingClientRect()
    return box ? from + ((x - box.left) / box.width) * span : from
  }
  const letGo = () => {
    const { move: to, held: what } = state.current
    const visit = dragging.current?.visit
    dragging.current = null
    if (!what) {
      if (visit) choose(keyOf(visit))
      return
    }
    if (to && !(visit && visit.start === to.start && visit.technician === to.technician)) put(to)
    else hold(null)
  }
  useEffect(() => {
    if (!held) return
    const onKey = (event: KeyboardEvent) => {
      const by = { ArrowRight: grid, ArrowLeft: -grid }[event.key]
      const row = { ArrowDown: 1, ArrowUp: -1 }[event.key]
      if (event.key === 'Escape') {
        dragging.current = null
        hold(null)
      } else if (event.key === 'Enter' && !dragging.current && state.current.move) put(state.current.move)
      else if (by) hold({ ...held, start: held.start + by * minute })
      else if (row) {
        const to = technicians[technicians.findIndex((t) => t.key === held.technician) + row]
        if (to) hold({ ...held, technician: to.key })
      } else return
      event.preventDefault()
      event.stopPropagation()
    }
    window.addEventListener('keydown', onKey, true)
    return () => window.removeEventListener('keydown', onKey, true)
  }, [held, hold, put, technicians])

  const awayText = (a: Schemas['AwaySeen']) => {
    const [begins, ends] = [Math.max(from, Date.parse(a.from)), Math.min(from + span, Date.parse(a.until))]
    const time = (at: number) => clock.time(new Date(at).toISOString())
    return begins <= from && ends >= from + span ? 'away' : `away ${time(begins)}–${time(ends)}`
  }
  const marks = Array.from({ length: hours.until - hours.from }, (_, i) => i)
  const every = marks.length > 12 ? 2 : 1
  const ghost = held && (answer?.at ?? null)
  return (
    <div className={`board plan-board${held ? ' holding' : ''}`} onPointerMove={onMove} onPointerUp={letGo} onPointerLeave={letGo}>
      <div className="board-hours" aria-hidden="true">
        {marks.map((i) =>
          i % every === 0 ? (
            <span key={i} style={{ left: at(from + i * 60 * minute) }}>
              {hours.from + i}:00
            </span>
          ) : null,
        )}
      </div>
      {technicians.map((t, index) => {
        const mine = byTechnician.get(t.key) ?? []
        const away = absences.filter((a) => a.technician === t.key && Date.parse(a.from) < from + span && Date.parse(a.until) > from)
        const lanes = stack(mine)
        return (
          <div
            key={t.key}
            className="board-row"
            ref={(element) => void (element ? rows.current.set(t.key, element) : rows.current.delete(t.key))}
          >
            <div className="board-who">
              <strong>{t.name.split(' ')[0]}</strong>
              <span className="soft">
                {[...new Set(mine.map((v) => v.site))].join(', ') || (away.length > 0 ? '' : oversees ? 'free' : 'nothing at your sites')}
              </span>
              {away.map((a) => (
                <span key={a.from} className="sign-wants">
                  {awayText(a)}
                </span>
              ))}
            </div>
            <div className="board-lanes" ref={index === 0 ? field : undefined}>
              {away.map((a) => (
                <AwayBlock key={a.from} away={a} from={from} until={from + span} />
              ))}
              {(lanes.length ? lanes : [[]]).map((lane, i) => (
                <div key={lane[0] ? keyOf(lane[0]) : `lane-${i.toString()}`} className="lane">
                  {lane.map((v) => (
                    <Block
                      key={keyOf(v)}
                      visit={v}
                      at={at}
                      span={span}
                      quiet={held ? keyOf(held) === keyOf(v) : false}
                      chosen={chosen === keyOf(v)}
                      canMove={canMove}
                      onDown={(event) => {
                        if (event.button !== 0) return
                        if (canMove) event.currentTarget.closest('.board')?.setPointerCapture(event.pointerId)
                        dragging.current = { x: event.clientX, y: event.clientY, visit: v }
                        if (!canMove) letGo()
                      }}
                      onChoose={() => choose(keyOf(v))}
                      onPickUp={() =>
                        canMove &&
                        hold({
                          swap: v.swap,
                          isBench: v.isBench,
                          person: v.person,
                          technician: v.technician,
                          start: Date.parse(v.start),
                          grab: 0,
                        })
                      }
                    />
                  ))}
                </div>
              ))}
              {held?.technician === t.key && (
                <div
                  className={`ghost${answer ? (answer.isAllowed ? ' fits' : ' breaks') : ''}`}
                  style={{
                    left: at(held.start),
                    width: `${((ghost ? Date.parse(ghost.end) - Date.parse(ghost.start) : 75 * minute) / span) * 100}%`,
                  }}
                >
                  {held.person}
                </div>
              )}
            </div>
          </div>
        )
      })}
      {dayOf(Date.now(), clock.zone) === day && Date.now() > from && Date.now() < from + span && (
        <div className="board-now" style={{ '--at': (Date.now() - from) / span } as React.CSSProperties} aria-hidden="true" />
      )}
      <p className="trial" role="status" aria-live="polite">
        {held ? (
          <>
            <strong>
              {held.person}, {clock.time(new Date(held.start).toISOString())} with{' '}
              {technicians.find((t) => t.key === held.technician)?.name ?? held.technician}:
            </strong>{' '}
            {trial.isError ? (
              (trial.error as Error).message
            ) : !answer ? (
              '…'
            ) : answer.isAllowed ? (
              <>
                <span className="sign-done" aria-hidden="true">
                  ✓
                </span>{' '}
                fits, {costWords(answer.costAfter - answer.costBefore)}. Let go or press Enter to put it there, Escape to leave it.
              </>
            ) : (
              <>
                <span className="sign-stopped" aria-hidden="true">
                  ■
                </span>{' '}
                {answer.breaks.join(' ')}
              </>
            )}
          </>
        ) : (
          <span className="soft">
            {canMove
              ? 'Drag a visit, or press M on it and use the arrow keys.'
              : 'Plan again to change it: what is published stays until the next is published.'}
          </span>
        )}
      </p>
    </div>
  )
}

/** What a move does to the plan; the figure is of the plan's cost. */
const costWords = (by: number) =>
  by === 0 ? 'the plan stays as good' : by > 0 ? `the plan gets worse by ${by}` : `the plan gets better by ${-by}`

type BlockProps = {
  visit: Appointment
  at: (time: number) => string
  span: number
  quiet: boolean
  chosen: boolean
  canMove: boolean
  onDown: (event: React.PointerEvent) => void
  onChoose: () => void
  onPickUp: () => void
}

function Block({ visit, at, span, quiet, chosen, canMove, onDown, onChoose, onPickUp }: BlockProps) {
  const clock = useClock()
  const [start, end] = [Date.parse(visit.start), Date.parse(visit.end)]
  const share = (x: string, y: string) => `${((Date.parse(y) - Date.parse(x)) / (end - start)) * 100}%`
  const words = `${visit.person}${visit.isBench ? ', bench preparation' : ''}, ${visit.site}, ${clock.time(visit.start)} to ${clock.time(visit.end)} with ${visit.with}${visit.booked ? `, a draft: ${visit.booked} now` : ''}${visit.isPinned ? ', pinned' : ''}. Hands-on until ${clock.time(visit.handsOnUntil)}, unattended until ${clock.time(visit.finish)}.`
  return (
    <button
      type="button"
      className={`visit block${quiet ? ' lifted' : ''}${chosen ? ' chosen' : ''}${visit.isBench ? ' bench' : ''}${visit.booked ? ' drafted' : ''}`}
      style={{ left: at(start), width: `${((end - start) / span) * 100}%`, cursor: canMove ? 'grab' : 'pointer' }}
      title={words}
      aria-label={words}
      aria-pressed={chosen}
      data-visit={keyOf(visit)}
      onPointerDown={onDown}
      onKeyDown={(event) => {
        if (event.key === 'm' || event.key === 'M') onPickUp()
        else if (event.key === 'Enter' || event.key === ' ') onChoose()
        else return
        event.preventDefault()
        event.stopPropagation()
      }}
    >
      <span className="part hands-on" style={{ width: share(visit.start, visit.handsOnUntil) }} />
      <span className="part unattended" style={{ width: share(visit.handsOnUntil, visit.finish) }} />
      <span className="part hands-on" style={{ width: share(visit.finish, visit.end) }} />
      <span className="visit-name">
        {visit.isPinned && <span aria-hidden="true">◆ </span>}
        {visit.person}
        {visit.isBench && <span className="soft"> bench</span>}
      </span>
    </button>
  )
}
