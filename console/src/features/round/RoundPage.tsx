import { Button, NativeSelect } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { lazy, Suspense, useEffect, useState } from 'react'
import type { Schemas } from '../../api/client'
import { ageText } from '../../shared/amounts'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { Word } from '../../shared/Word'
import { purposes } from '../../shared/words'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { meQuery } from '../session/queries'
import { swapQuery } from '../swap/queries'
import { techniciansQuery } from '../swaps/queries'
import { roundQuery } from './queries'

// Rarely wanted, and it brings its own fields along.
const DayHandoverDialog = lazy(() => import('./DayHandoverDialog').then((m) => ({ default: m.DayHandoverDialog })))

type Turn = Schemas['RoundTurnSeen']
type Alone = Schemas['RoundAlone']

const parts: Record<string, string> = {
  bench: 'bench preparation',
  first: 'first part',
  'go-on': 'in hand',
  back: 'back',
  return: 'return visit',
}

/** What to do now, what comes after it, what goes on by itself: for one technician, as facts change. */
export function RoundPage({ technician }: { technician?: string }) {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const technicians = useQuery(techniciansQuery(refresh.key))
  const [chosen, setChosen] = useState(technician ?? '')
  const [leaves, setLeaves] = useState(false)
  const own = me.data?.role === 'technician' ? me.data.name : undefined
  const mine = own ?? technicians.data?.find((t) => t.key === me.data?.name)?.key
  // A technician's own round is asked for at once; whose round else there is, is not waited for.
  const key = chosen || mine || technicians.data?.[0]?.key || ''
  const round = useQuery(roundQuery(refresh.key, key))
  useTakeAlong(round.data)
  if ((technicians.isPending && !own) || me.isPending) return <Coming rows={6} />
  if (technicians.isError && !own) return <Failed error={technicians.error} retry={() => technicians.refetch()} />
  if (key === '')
    return (
      <Empty>
        There is no technician yet. Add one under <To to="/capacity">Capacity</To>.
      </Empty>
    )
  const mayLeave = me.data?.role === 'coordinator' || mine === key
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>{mine === key ? 'My round' : 'Round'}</h1>
            <Word of="round" />
            <span className="soft purpose">{purposes.round}</span>
          </div>
          <p className="soft">{round.data ? <Standing round={round.data} /> : ' '}</p>
        </div>
        <div className="actions">
          {me.data?.role !== 'technician' && (
            <NativeSelect
              aria-label="Technician"
              data={(technicians.data ?? []).map((t) => ({ value: t.key, label: t.name }))}
              value={key}
              onChange={(e) => setChosen(e.currentTarget.value)}
            />
          )}
        </div>
      </header>
      {round.isPending ? (
        <Coming rows={6} />
      ) : round.isError ? (
        <Failed error={round.error} retry={() => round.refetch()} />
      ) : (
        <Turns round={round.data} />
      )}
      {/* Last, as it is rare: on a phone what to do now comes first. */}
      {mayLeave && (
        <p className="actions start">
          <Button variant="default" onClick={() => setLeaves(true)}>
            Hand over the day…
          </Button>
        </p>
      )}
      {leaves && (
        <Suspense>
          <DayHandoverDialog technician={key} close={() => setLeaves(false)} />
        </Suspense>
      )}
    </>
  )
}

/** Reads the checklists of the round ahead, so that they are there at a desk without a network. */
function useTakeAlong(round: Schemas['RoundSeen'] | undefined) {
  const queries = useQueryClient()
  const swaps = [...new Set([...(round?.turns ?? []), ...(round?.alone ?? [])].map((t) => t.swap))].sort().join(' ')
  useEffect(() => {
    let stopped = false
    const read = async () => {
      for (const swap of swaps.split(' ').filter(Boolean)) {
        if (stopped) return
        await queries.prefetchQuery({ ...swapQuery(swap), staleTime: 60_000 })
      }
    }
    void read()
    return () => {
      stopped = true
    }
  }, [swaps, queries])
}

function Standing({ round }: { round: Schemas['RoundSeen'] }) {
  const clock = useClock()
  const swaps = new Set(round.turns.map((t) => t.swap)).size
  const last = round.turns.at(-1)
  return (
    <>
      {round.name} · {swaps} {swaps === 1 ? 'swap' : 'swaps'} to go{round.over ? `, ${round.over} over` : ''}
      {round.alone.length ? `, ${round.alone.length} going on by ${round.alone.length === 1 ? 'itself' : 'themselves'}` : ''}
      {last ? (
        <>
          {' · '}
          <strong>hands free at {clock.time(last.end)} as things stand</strong>
        </>
      ) : null}
    </>
  )
}

function Turns({ round }: { round: Schemas['RoundSeen'] }) {
  const [first, ...then] = round.turns
  return (
    <div className="columns">
      <div>
        {first ? (
          <Now turn={first} now={round.now} />
        ) : (
          <section className="card">
            <Empty>
              <Sign sign="done" quiet />{' '}
              {round.alone.length
                ? 'Nothing needs your hands now. What goes on by itself calls you back here.'
                : 'Nothing more to do today.'}
            </Empty>
          </section>
        )}
        {then.length > 0 && (
          <section className="card" aria-labelledby="then">
            <div className="card-head">
              <h2 id="then">Then</h2>
              <span className="soft">as things stand</span>
            </div>
            <ol className="rows">
              {then.map((turn) => (
                <Then key={`${turn.swap} ${turn.part} ${turn.start}`} turn={turn} />
              ))}
            </ol>
          </section>
        )}
      </div>
      <section className="card" aria-labelledby="alone">
        <div className="card-head">
          <h2 id="alone">Goes on by itself</h2>
          <span className="soft">{round.alone.length || ''}</span>
        </div>
        {round.alone.length === 0 ? (
          <Empty>Nothing runs without you. Start a trip, an update or a restart, and it shows here until it calls you back.</Empty>
        ) : (
          <ul className="rows">
            {round.alone.map((alone) => (
              <GoesOn key={alone.swap} alone={alone} now={round.now} />
            ))}
          </ul>
        )}
      </section>
    </div>
  )
}

function Now({ turn, now }: { turn: Turn; now: string }) {
  const clock = useClock()
  const later = Date.parse(turn.start) > Date.parse(now) + 30_000
  const sign = turn.sign.sign === 'stopped' ? 'stopped' : turn.part === 'back' || turn.lateMinutes > 0 ? 'wants' : 'moving'
  return (
    <section className="card now" aria-labelledby="now">
      <p className="now-when">
        <Sign sign={later ? 'ahead' : sign} quiet /> {later ? `At ${clock.time(turn.start)}` : 'Now'} · {parts[turn.part] ?? turn.part}
        {turn.lateMinutes > 0 && turn.promised ? (
          <span className="sign-wants">
            {' '}
            · promised {clock.time(turn.promised)}, {turn.lateMinutes} min late
          </span>
        ) : null}
      </p>
      <h2 id="now">{turn.name}</h2>
      <p className="now-where">
        {turn.site}
        {turn.room ? `, ${turn.room}` : ''}
      </p>
      {turn.part === 'go-on' && turn.stepTitle ? null : <p>{turn.words.replace(/\.$/, '')}.</p>}
      {turn.stepTitle ? (
        <p>
          <span className="soft">Next step:</span> <strong>{turn.stepTitle}</strong>
        </p>
      ) : null}
      <Button fullWidth size="md" component={To} to={`/swaps/${turn.swap}`}>
        {turn.sign.sign === 'stopped' ? 'See why it stopped' : 'Work its checklist'}
      </Button>
    </section>
  )
}

function Then({ turn }: { turn: Turn }) {
  const clock = useClock()
  return (
    <li className="then-row">
      <span className="mono">
        {clock.time(turn.start)}–{clock.time(turn.end)}
      </span>
      <div>
        <To to={`/swaps/${turn.swap}`}>{turn.name}</To>{' '}
        <span className="soft">
          {parts[turn.part] ?? turn.part} · {turn.site}
          {turn.room ? `, ${turn.room}` : ''}
        </span>
        {turn.part === 'return' && <p>{turn.words}</p>}
        {turn.lateMinutes > 0 && turn.promised ? (
          <p className="sign-wants">
            <span aria-hidden="true">▲</span> promised {clock.time(turn.promised)}: {turn.lateMinutes} min late as things stand
          </p>
        ) : null}
      </div>
    </li>
  )
}

function GoesOn({ alone, now }: { alone: Alone; now: string }) {
  const clock = useClock()
  const m = alone.moving
  const share = m && m.totalBytes > 0 ? Math.min(1, m.bytes / m.totalBytes) : null
  return (
    <li className="alone-row">
      <div>
        <To to={`/swaps/${alone.swap}`}>{alone.name}</To> <span className="soft">{alone.site}</span>
        <p className="soft">
          {alone.words}
          {share === null ? '' : `, ${Math.round(share * 100)} %`}
        </p>
        {share === null ? null : <progress value={share} aria-label={`${alone.words} for ${alone.name}`} />}
      </div>
      <span className="mono soft">
        {alone.until ? `until ${clock.time(alone.until)}` : `since ${ageText((Date.parse(now) - Date.parse(alone.since)) / 1000)}`}
      </span>
    </li>
  )
}
