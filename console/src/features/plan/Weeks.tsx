import type { Schemas } from '../../api/client'
import { dayText } from '../../shared/wall'

/** All days of the refresh with their load: filled as far as the technicians' hours are. */
export function Weeks({ days, chosen, choose }: { days: Schemas['DayLoad'][]; chosen: string; choose: (day: string) => void }) {
  const step = (event: React.KeyboardEvent, index: number) => {
    const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: 7, ArrowUp: -7 }[event.key]
    const to = by === undefined ? undefined : days[index + by]
    if (!to) return
    event.preventDefault()
    choose(to.day)
    const cells = event.currentTarget.parentElement?.querySelectorAll<HTMLElement>('.day-cell')
    cells?.[index + (by ?? 0)]?.focus()
  }
  return (
    <div className="weeks" role="listbox" aria-label="Days of the refresh" aria-orientation="horizontal">
      {days.map((d, i) => {
        const full = d.shiftMinutes > 0 ? d.handsOnMinutes / d.shiftMinutes : 0
        const monday = new Date(`${d.day}T12:00:00Z`).getUTCDay() === 1
        const words =
          d.shiftMinutes === 0
            ? 'nobody works'
            : `${d.visits} ${d.visits === 1 ? 'visit' : 'visits'}, ${Math.round(full * 100)} % of the technicians' hours`
        return (
          <button
            key={d.day}
            type="button"
            role="option"
            className={`day-cell${monday && i > 0 ? ' week-begins' : ''}`}
            aria-selected={d.day === chosen}
            tabIndex={d.day === chosen ? 0 : -1}
            onClick={() => choose(d.day)}
            onKeyDown={(e) => step(e, i)}
            title={`${dayText(d.day)}: ${words}`}
            aria-label={`${dayText(d.day)}: ${words}`}
          >
            <span className="soft">{dayText(d.day, { weekday: 'narrow' })}</span>
            <span>{dayText(d.day, { day: 'numeric' })}</span>
            <span className={`day-load${d.shiftMinutes === 0 ? ' nobody' : ''}`}>
              <span style={{ height: `${Math.min(1, full) * 100}%` }} />
            </span>
            <span className="figures">{d.visits || ''}</span>
          </button>
        )
      })}
    </div>
  )
}
