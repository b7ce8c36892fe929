import { useQuery } from '@tanstack/react-query'
import { Refused } from '../../api/client'
import { askExchange, choose, type Page, slotsQuery, useChange } from '../queries'
import { useVoice } from '../speak'
import { WaitForm } from './Waits'

/** Times that fit now, times that others would give, and a place in the line for one that is taken. */
export function Slots({ page, close }: { page: Page; close: () => void }) {
  const { w, day, time, told } = useVoice()
  const slots = useQuery(slotsQuery)
  const take = useChange(choose)
  const ask = useChange(askExchange)
  const days = new Map<string, NonNullable<typeof slots.data>['slots']>()
  for (const slot of slots.data?.slots ?? []) days.set(day(slot.start), [...(days.get(day(slot.start)) ?? []), slot])
  const faster = take.error instanceof Refused && take.error.code === 'slot.taken'
  const again = () => void slots.refetch()
  const error = take.error ?? ask.error
  return (
    <div className="slots" role="group" aria-label={w.when.slots}>
      <h3>{w.when.slots}</h3>
      {error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">▲</span> {faster ? w.when.taken : told(error)}
        </p>
      )}
      {slots.isPending && <p role="status">{w.opening}</p>}
      {slots.isError && <p role="alert">{told(slots.error)}</p>}
      {slots.data && days.size === 0 && <p>{w.when.noSlots}</p>}
      {[...days].map(([name, free], i) => (
        <details key={name} open={i === 0 || free.some((slot) => slot.isOwn)}>
          <summary>
            {name} <span className="soft">{w.when.free(free.length)}</span>
          </summary>
          <ul>
            {free.map((slot) => (
              <li key={slot.start}>
                <button
                  type="button"
                  className={slot.isOwn ? 'slot own' : 'slot'}
                  aria-label={w.when.take(`${name}, ${time(slot.start)}–${time(slot.end)}`)}
                  disabled={take.isPending || slot.isOwn}
                  onClick={() => take.mutate(slot.start, { onSuccess: close, onError: again })}
                >
                  <strong>{time(slot.start)}</strong>–{time(slot.end)}
                  <span className="soft">{slot.isOwn ? w.when.yours : slot.technicianName}</span>
                </button>
              </li>
            ))}
          </ul>
        </details>
      ))}
      {slots.data && slots.data.offers.length > 0 && (
        <>
          <h3>{w.when.offers}</h3>
          <p className="soft">{w.when.offersHow}</p>
          <ul className="offers">
            {slots.data.offers.map((other) => (
              <li key={other.offer}>
                <button
                  type="button"
                  className="slot"
                  disabled={ask.isPending || other.isAsked}
                  onClick={() => ask.mutate(other.offer, { onSettled: again })}
                >
                  <strong>
                    {day(other.start)}, {time(other.start)}
                  </strong>
                  –{time(other.end)}
                  <span className="soft">{other.isAsked ? w.when.asked : w.when.ask}</span>
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
      {!page.booking.wait && <WaitForm from={page.now} done={close} />}
      <button type="button" className="quiet" onClick={close}>
        {w.when.keep}
      </button>
    </div>
  )
}
