import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Coming, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { useClock } from '../../shared/zone'
import { type Told, toldQuery, useAgain } from './queries'

const ofTimes = ['booked', 'moved', 'unbooked']
const most = 50

/** After times changed: who hears of it when, who does not hear of it by mail, and the way to tell them now. */
export function WhoHears({ refresh }: { refresh: string }) {
  const told = useQuery(toldQuery(refresh))
  const again = useAgain(refresh)
  const clock = useClock()
  if (told.isPending) return <Coming rows={3} />
  if (told.isError) return <Failed error={told.error} retry={() => told.refetch()} />
  // Where nobody is told at all, that is one thing to know, and not one for each.
  const tells = told.data.canSend && told.data.since !== null
  const due = told.data.people.filter((p) => p.next?.due && ofTimes.includes(p.next.moment ?? ''))
  const never = told.data.people.filter((p) => p.next?.why)
  const times = due.map((p) => p.next?.due ?? '').sort((a, b) => Date.parse(a) - Date.parse(b))
  const [first, last] = [times[0], times[times.length - 1]]
  const tellNow = async () => {
    for (const moment of ofTimes) {
      const swaps = due.filter((p) => p.next?.moment === moment).map((p) => p.swap)
      for (let from = 0; from < swaps.length; from += 500) {
        const went = await again.mutateAsync({ moment, swaps: swaps.slice(from, from + 500) }).catch(() => null)
        if (!went) return
      }
    }
  }
  return (
    <section aria-label="Who hears of it">
      {due.length === 0 && never.length === 0 && <p>Everybody knows their time.</p>}
      {first && last && (
        <p>
          {due.length === 1 ? '1 person is' : `${due.length} people are`} told by mail{' '}
          {first === last ? clock.full(first) : `between ${clock.full(first)} and ${clock.full(last)}`}.{' '}
          <Button size="compact-sm" variant="default" loading={again.isPending} onClick={tellNow}>
            Tell them now
          </Button>
        </p>
      )}
      {again.isError && <Failed error={again.error} />}
      {again.data && again.data.skipped.length > 0 && <p className="soft">{again.data.skipped.join(' ')}</p>}
      {never.length > 0 && !tells && (
        <p className="sign-wants">
          <span aria-hidden="true">▲</span> {never.length === 1 ? '1 person has' : `${never.length} people have`} not been told their time,
          and nobody is told by mail: {never[0]?.next?.why}. <To to="/told">See who</To>
        </p>
      )}
      {never.length > 0 && tells && (
        <>
          <p className="sign-stopped">
            <span aria-hidden="true">■</span> {never.length === 1 ? '1 person does' : `${never.length} people do`} not hear of their time by
            mail: call them, and tick “told” on their checklist.
          </p>
          <ul className="rows" tabIndex={0} aria-label="Who is to be called">
            {never.slice(0, most).map((p) => (
              <Uncalled key={p.swap} p={p} />
            ))}
            {never.length > most && (
              <li className="plain">
                <To to="/told">{`and ${never.length - most} more`}</To>
              </li>
            )}
          </ul>
        </>
      )}
    </section>
  )
}

function Uncalled({ p }: { p: Told }) {
  const clock = useClock()
  return (
    <li className="plain">
      <To to={`/swaps/${p.swap}`}>{p.name}</To>, {p.site}
      {p.room ? `, ${p.room}` : ''}
      {p.mail ? ` · ${p.mail}` : ''}{' '}
      <span className="soft">
        {p.start ? `${clock.full(p.start)} · ` : ''}
        {p.next?.why}
      </span>
    </li>
  )
}
