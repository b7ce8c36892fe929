import { useState } from 'react'
import { offer, type Page, say, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'
import { Exchanges } from './Exchanges'
import { SayForm } from './SayForm'
import { Slots } from './Slots'
import { Waits } from './Waits'

const minutes = (from: string, to: string) => Math.round((Date.parse(to) - Date.parse(from)) / 60_000)

/** The time, where, and with whom; another one, or a word that it does not suit. */
export function WhenCard({ page }: { page: Page }) {
  const { w, day, time, moment } = useVoice()
  const [asks, setAsks] = useState<'slots' | 'unsuited' | null>(null)
  const unsuited = useChange((words: string) => say({ kind: 'time', words }))
  const offered = useChange(offer)
  const at = page.swap.appointment
  const { booking } = page
  const chooses = booking.until !== null && !booking.refusal
  if (booking.refusal === 'called-off')
    return (
      <Card title={w.when.title}>
        <p>{w.when.calledOff}</p>
      </Card>
    )
  const over = page.swap.line.some((stop) => stop.station === 'accepted' && stop.at)
  return (
    <Card title={w.when.title} tone={over ? undefined : 'now'}>
      {at ? (
        <>
          <p className="big">{w.when.at(day(at.start), time(at.start), time(at.end))}</p>
          <p>{w.when.where(at.site, at.room, at.technicianName)}</p>
          {!over && (
            <>
              <Parts
                first={minutes(at.start, at.handsOnUntil)}
                alone={minutes(at.handsOnUntil, at.finish)}
                last={minutes(at.finish, at.end)}
              />
              <p className="soft">
                {w.when.parts(
                  w.when.minutes(minutes(at.start, at.handsOnUntil)),
                  at.finish > at.handsOnUntil ? w.when.minutes(minutes(at.handsOnUntil, at.finish)) : '',
                  w.when.minutes(minutes(at.finish, at.end)),
                )}
              </p>
            </>
          )}
        </>
      ) : (
        <p>{w.when.none}</p>
      )}
      {chooses && <Exchanges exchanges={booking.exchanges} />}
      {chooses && booking.wait && <Waits wait={booking.wait} />}
      {over ? null : asks === 'slots' ? (
        <Slots page={page} close={() => setAsks(null)} />
      ) : asks === 'unsuited' ? (
        <SayForm label={w.when.unsuitedHow} action={w.ask.send} change={unsuited} cancel={() => setAsks(null)} done={() => setAsks(null)} />
      ) : (
        <>
          {booking.refusal === 'too-late' && <p className="soft">{w.when.tooLate}</p>}
          {booking.refusal === 'fixed' && <p className="soft">{w.when.fixed}</p>}
          {booking.refusal !== 'under-way' && (
            <div className="actions">
              {chooses && (
                <button type="button" onClick={() => setAsks('slots')}>
                  {w.when.other}
                </button>
              )}
              <button type="button" className="plain" onClick={() => setAsks('unsuited')}>
                {w.when.unsuited}
              </button>
            </div>
          )}
          {chooses && (
            <label className="choice">
              <input
                type="checkbox"
                checked={offered.isPending ? offered.variables : booking.isOffered}
                disabled={offered.isPending}
                onChange={(e) => offered.mutate(e.currentTarget.checked)}
              />
              <span>
                {w.when.offer} <span className="soft">{w.when.offerHow}</span>
              </span>
            </label>
          )}
          {booking.until && chooses && <p className="soft">{w.when.until(moment(booking.until))}</p>}
        </>
      )}
    </Card>
  )
}

/** A visit has three parts: hands-on, unattended, hands-on. */
function Parts({ first, alone, last }: { first: number; alone: number; last: number }) {
  const all = first + alone + last
  const part = (share: number, name: string) => (share > 0 ? <span className={name} style={{ flexGrow: share / all }} /> : null)
  return (
    <div className="parts" aria-hidden="true">
      {part(first, 'hands-on')}
      {part(alone, 'alone')}
      {part(last, 'hands-on')}
    </div>
  )
}
