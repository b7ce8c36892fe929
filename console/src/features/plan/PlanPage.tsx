import { Button, Menu } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate } from '@tanstack/react-router'
import { useMemo, useState } from 'react'
import { Coming, Empty, Failed } from '../../shared/States'
import { Why } from '../../shared/Why'
import { dayOf, dayText, instantOf, wallTime } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery, useOversees } from '../session/queries'
import { type Held, keyOf, PlanBoard } from './PlanBoard'
import { PlanFind } from './PlanFind'
import { PublishDialog } from './PublishDialog'
import { changesQuery, type Move, type Plan, planQuery, useDrop, useMake, useMove, useUndo, worldQuery } from './queries'
import { Strips } from './Strips'
import { Tray } from './Tray'
import { VisitCard } from './VisitCard'
import { Weeks } from './Weeks'

export function PlanPage({ day, visit }: { day?: string; visit?: string }) {
  const refresh = useRefresh()
  const plan = useQuery(planQuery(refresh.key))
  const world = useQuery(worldQuery(refresh.key))
  const me = useQuery(meQuery)
  if (plan.isPending || world.isPending) return <Coming rows={12} />
  if (plan.isError) return <Failed error={plan.error} retry={() => plan.refetch()} />
  if (world.isError) return <Failed error={world.error} retry={() => world.refetch()} />
  const leads = me.data?.role === 'coordinator'
  return plan.data.state === 'none' ? (
    <NoPlan leads={leads} />
  ) : (
    <Planned plan={plan.data} world={world.data} leads={leads} day={day} visit={visit} />
  )
}

function NoPlan({ leads }: { leads: boolean }) {
  const make = useMake(useRefresh().key)
  return (
    <>
      <header className="head">
        <h1>Plan</h1>
      </header>
      <Empty>
        <p>There is no plan yet. A first one needs nothing but the roster and one technician; everything else has a default.</p>
        <div className="actions start">
          {leads && (
            <Button loading={make.isPending} onClick={() => make.mutate({ steps: 20_000, seed: 1, afresh: false })}>
              Make a draft
            </Button>
          )}
          <Button component={Link} to="/capacity" variant="default">
            Technicians, sites, dates
          </Button>
        </div>
      </Empty>
    </>
  )
}

type PlannedProps = {
  plan: Plan
  world: { technicians: Parameters<typeof PlanBoard>[0]['technicians']; sites: Parameters<typeof Strips>[0]['sites'] }
  leads: boolean
  day?: string
  visit?: string
}

function Planned({ plan, world, leads, day: asked, visit: chosen }: PlannedProps) {
  const refresh = useRefresh()
  const clock = useClock()
  const navigate = useNavigate()
  const [held, setHeld] = useState<Held | null>(null)
  const [publishing, setPublishing] = useState(false)
  const move = useMove(refresh.key)
  const undo = useUndo(refresh.key)
  const canMove = leads && plan.state === 'draft'
  const dayOfVisit = (a: { start: string }) => dayOf(a.start, clock.zone)
  const today = dayOf(Date.now(), clock.zone)
  const withVisits = plan.load.days.filter((d) => d.visits > 0)
  const day = asked ?? withVisits.find((d) => d.day >= today)?.day ?? withVisits[0]?.day ?? plan.load.days[0]?.day ?? today
  const go = (to: { day?: string; visit?: string }) => navigate({ to: '/plan', search: { day, visit: chosen, ...to }, replace: true })
  // While something is dragged the page is drawn sixty times a second: what only the plan and the day tell is not told anew.
  const visits = useMemo(() => plan.appointments.filter((a) => dayOf(a.start, clock.zone) === day), [plan.appointments, clock.zone, day])
  const hours = useMemo(() => hoursOf(visits, clock.zone), [visits, clock.zone])
  const shown = useMemo(() => plan.appointments.find((a) => keyOf(a) === chosen), [plan.appointments, chosen])
  const put = (wanted: Move) => {
    setHeld(null)
    move.mutate({ move: wanted, version: plan.version })
  }
  useHotkeys([
    ['u', () => canMove && plan.canUndo && !undo.isPending && undo.mutate(plan.version)],
    ['p', () => canMove && setPublishing(true)],
  ])
  const pickUp = (swap: string, person: string, isBench = false) =>
    setHeld({
      swap,
      person,
      isBench,
      technician: world.technicians[0]?.key ?? '',
      // Nine in the morning, or as early as the day shown begins.
      start: instantOf(day, Math.max(hours.from, 9) * 60, clock.zone),
      grab: 0,
    })
  return (
    <>
      <PlanHead
        plan={plan}
        leads={leads}
        undo={() => undo.mutate(plan.version)}
        publish={() => setPublishing(true)}
        find={<PlanFind plan={plan} go={(a) => go({ day: dayOfVisit(a), visit: keyOf(a) })} />}
      />
      <section className="card" aria-label="Weeks">
        <Weeks days={plan.load.days} chosen={day} choose={(d) => go({ day: d, visit: undefined })} />
      </section>
      <div className={shown ? 'columns plan-columns' : undefined}>
        <section className="card" aria-label={`Visits on ${dayText(day)}`}>
          <div className="card-head">
            <h2>{dayText(day, { weekday: 'long', day: 'numeric', month: 'long' })}</h2>
            <span className="soft">
              {visits.length === 0 ? 'no visits' : `${visits.filter((v) => !v.isBench).length} visits`}
              {' · '}
              <Link to="/plan/sheets" search={{ day }}>
                print sheets
              </Link>
            </span>
          </div>
          <PlanBoard
            refresh={refresh.key}
            day={day}
            technicians={world.technicians}
            visits={visits}
            absences={plan.away ?? []}
            version={plan.version}
            canMove={canMove}
            held={held}
            hold={setHeld}
            put={put}
            chosen={chosen ?? null}
            choose={(key) => go({ visit: key === chosen ? undefined : key })}
            hours={hours}
          />
          <Strips plan={plan} day={day} visits={visits} sites={world.sites} hours={hours} />
        </section>
        {shown && (
          <VisitCard
            refresh={refresh.key}
            visit={shown}
            canMove={canMove}
            put={put}
            pickUp={() =>
              setHeld({
                swap: shown.swap,
                person: shown.person,
                isBench: shown.isBench,
                technician: shown.technician,
                start: Date.parse(shown.start),
                grab: 0,
              })
            }
            close={() => go({ visit: undefined })}
          />
        )}
      </div>
      <Tray refresh={refresh.key} plan={plan} canMove={canMove} pickUp={pickUp} />
      {publishing && <PublishDialog refresh={refresh.key} plan={plan} close={() => setPublishing(false)} />}
    </>
  )
}

/** From an hour before the first visit to an hour after the last, at least from eight to five. */
function hoursOf(visits: { start: string; end: string }[], zone: string) {
  const hour = (at: string) => Number(wallTime(at, zone).slice(0, 2))
  return {
    from: Math.min(8, ...visits.map((v) => hour(v.start))),
    until: Math.min(24, Math.max(17, ...visits.map((v) => hour(v.end) + 1))),
  }
}

type HeadProps = { plan: Plan; leads: boolean; undo: () => void; publish: () => void; find: React.ReactNode }

function PlanHead({ plan, leads, undo, publish, find }: HeadProps) {
  const oversees = useOversees()
  const refresh = useRefresh()
  const navigate = useNavigate()
  const make = useMake(refresh.key)
  const drop = useDrop(refresh.key)
  const [throwing, setThrowing] = useState(false)
  const changes = useQuery(changesQuery(refresh.key, plan))
  const draft = plan.state === 'draft'
  const f = plan.figures
  const affected = changes.data?.changes.length
  return (
    <header className="head">
      <div>
        <h1>
          Plan {plan.number} <span className={draft ? 'tag wants' : 'tag'}>{plan.state}</span>
        </h1>
        <p className="soft">
          {f.placed} appointments, {f.leftOut === 0 ? 'nobody left out' : `${f.leftOut} left out`}
          {f.lastDay ? `, the last on ${dayText(f.lastDay)}` : ''} ·{' '}
          {draft ? (
            <strong>
              not booked yet
              {affected === undefined
                ? ''
                : affected === 0
                  ? ', the same as what is published'
                  : `, publishing affects ${affected} ${affected === 1 ? 'visit' : 'visits'}`}
            </strong>
          ) : (
            <>published by {plan.publishedBy}</>
          )}{' '}
          <Why about="this plan and no other">
            <p>Of all that keep every rule it is the one that costs least of those that were found: {f.cost} in all.</p>
            <ul>
              {costs(f).map(([what, cost]) => (
                <li key={what}>
                  {what}: {cost}
                </li>
              ))}
            </ul>
          </Why>
        </p>
      </div>
      <div className="actions">
        {find}
        {leads && (
          <>
            {draft && (
              <Button variant="default" disabled={!plan.canUndo} onClick={undo} title="U takes the newest move back">
                Undo
              </Button>
            )}
            <Button
              variant={draft ? 'default' : 'filled'}
              loading={make.isPending}
              onClick={() => make.mutate({ seconds: 5, steps: 0, seed: 1, afresh: false })}
              title="Searches for five seconds, and goes on from what is here"
            >
              Plan again
            </Button>
            {draft && (
              <Button onClick={publish} title="P shows whom it affects, then publishes">
                Publish
              </Button>
            )}
          </>
        )}
        <Menu position="bottom-end">
          <Menu.Target>
            <Button variant="default">More</Button>
          </Menu.Target>
          <Menu.Dropdown>
            {oversees && <Menu.Item onClick={() => navigate({ to: '/plan/outlook' })}>Will it hold? What if?</Menu.Item>}
            {oversees && <Menu.Item onClick={() => navigate({ to: '/plan/history' })}>History of plans</Menu.Item>}
            {(['ics', 'csv', 'xlsx'] as const).map((form) => (
              <Menu.Item key={form} component="a" href={`/api/refreshes/${encodeURIComponent(refresh.key)}/plan/export?form=${form}`}>
                Published as {form === 'ics' ? 'calendar' : form === 'csv' ? 'CSV' : 'workbook'}
              </Menu.Item>
            ))}
            {leads && draft && <Menu.Item onClick={() => setThrowing(true)}>Throw the draft away…</Menu.Item>}
          </Menu.Dropdown>
        </Menu>
      </div>
      {throwing && (
        <FormDialog
          title={`Throw draft ${plan.number} away?`}
          close={() => setThrowing(false)}
          change={drop}
          send={() => drop.mutate(undefined, { onSuccess: () => setThrowing(false) })}
          action="Throw it away"
          keep="Keep it"
        >
          <p>All that was moved in it by hand goes with it, and does not come back. What is booked stays as it is.</p>
        </FormDialog>
      )}
    </header>
  )
}

const costs = (f: Plan['figures']): [string, number][] => [
  ['Left out', f.costLeftOut],
  ['Later than wanted', f.costLate],
  ['Not at a time that was preferred', f.costNotPreferred],
  ['Moved away from what was told', f.costMoved],
  ['Journeys between sites', f.costJourneys],
  ['Days of technicians', f.costTechnicianDays],
]
