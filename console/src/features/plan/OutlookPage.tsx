import { Button, NumberInput, Select, TextInput } from '@mantine/core'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { lazy, Suspense, useState } from 'react'
import { api, type Schemas, take } from '../../api/client'
import { Coming, Empty, Failed } from '../../shared/States'
import { Reason } from '../../shared/Why'
import { dayText } from '../../shared/wall'
import { useRefresh } from '../../shell/refresh'
import { planKeys, worldQuery } from './queries'

const OutlookPlot = lazy(() => import('./OutlookPlot'))
const percent = (p: number) => `${Math.round(p * 100)} %`

/** Will it hold, and what if: questions about the plan that change nothing. */
export function OutlookPage() {
  const [asked, setAsked] = useState<Doubts>({
    runs: 2000,
    seed: 1,
    lengthSpread: 0.25,
    noShow: 0.04,
    failedTrip: 0.03,
    overtimeMinutes: 30,
  })
  return (
    <>
      <header className="head">
        <div>
          <p className="crumbs soft">
            <Link to="/plan">Plan</Link>
          </p>
          <h1>Will it hold?</h1>
          <p className="soft">The plan is played many times with lengths, absences and trips as they may come. Nothing is changed.</p>
        </div>
      </header>
      <Holds asked={asked} setAsked={setAsked} />
      <Slack doubts={asked} />
      <WhatIf />
    </>
  )
}

type Doubts = Schemas['OutlookWanted']

function Holds({ asked, setAsked }: { asked: Doubts; setAsked: (to: Doubts) => void }) {
  const refresh = useRefresh()
  const outlook = useQuery({
    queryKey: [...planKeys.all(refresh.key), 'outlook', asked],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      take(api.POST('/api/refreshes/{refresh}/plan/outlook', { params: { path: { refresh: refresh.key } }, body: asked, signal })),
  })
  const field = (
    label: string,
    key: 'lengthSpread' | 'noShow' | 'failedTrip' | 'overtimeMinutes',
    max: number,
    step: number,
    help: string,
  ) => (
    <NumberInput
      label={label}
      description={help}
      value={asked[key]}
      min={0}
      max={max}
      step={step}
      onChange={(v) => typeof v === 'number' && setAsked({ ...asked, [key]: v })}
    />
  )
  const o = outlook.data
  return (
    <section className="card" aria-label="Outlook">
      <div className="doubts">
        {field('Spread of lengths', 'lengthSpread', 2, 0.05, '0.25: two of three within ±25 %')}
        {field('No-show', 'noShow', 1, 0.01, 'chance that nobody is there')}
        {field('Failed trip', 'failedTrip', 1, 0.01, 'chance that a visit is repeated')}
        {field('Overtime', 'overtimeMinutes', 600, 15, 'minutes somebody stays')}
      </div>
      {outlook.isError ? (
        <Failed error={outlook.error} retry={() => outlook.refetch()} />
      ) : !o ? (
        <Coming rows={8} />
      ) : (
        <>
          <p className="verdict">
            In <strong>{percent(o.inTime)}</strong> of {o.asked.runs} runs all is done by the last day
            {o.sureDay ? `; in 95 of 100 by ${dayText(o.sureDay)}.` : '; even the days beyond it are not enough for 95 of 100.'}
            {o.leftOut > 0 && ` Who is left out (${o.leftOut}) is not counted.`}
          </p>
          <Suspense fallback={<Coming rows={6} />}>
            <OutlookPlot outlook={o} />
          </Suspense>
          <div className="columns even">
            <div className="table-scroll" tabIndex={0} role="region" aria-label="Days at risk">
              <table className="account">
                <thead>
                  <tr>
                    <th>Day</th>
                    <th>Visits</th>
                    <th>Overtime</th>
                    <th>Repeated</th>
                  </tr>
                </thead>
                <tbody>
                  {o.days
                    .filter((d) => d.visits > 0)
                    .map((d) => (
                      <tr key={d.day}>
                        <th>{dayText(d.day)}</th>
                        <td>{d.visits}</td>
                        <td className={(d.overtime ?? 0) > 0.5 ? 'sign-wants' : ''}>{percent(d.overtime ?? 0)}</td>
                        <td>{(d.repeated ?? 0).toFixed(1)}</td>
                      </tr>
                    ))}
                </tbody>
              </table>
            </div>
            <div className="table-scroll" tabIndex={0} role="region" aria-label="Sites at risk">
              <table className="account">
                <thead>
                  <tr>
                    <th>Site</th>
                    <th>Visits</th>
                    <th>Repeated</th>
                  </tr>
                </thead>
                <tbody>
                  {o.sites.map((s) => (
                    <tr key={s.site}>
                      <th>{s.site}</th>
                      <td>{s.visits}</td>
                      <td>{s.repeated.toFixed(1)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </div>
        </>
      )}
    </section>
  )
}

/** How much slack buys how much: the plan made anew with more time in every visit. It takes some seconds, so it is asked for. */
function Slack({ doubts }: { doubts: Doubts }) {
  const refresh = useRefresh()
  const [asked, setAsked] = useState<Doubts | null>(null)
  const slack = useQuery({
    queryKey: [...planKeys.all(refresh.key), 'slack', asked],
    enabled: asked !== null,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: ({ signal }) =>
      take(
        api.POST('/api/refreshes/{refresh}/plan/slack', {
          params: { path: { refresh: refresh.key } },
          body: { doubts: asked ?? doubts, seconds: 1 },
          signal,
        }),
      ),
  })
  const steps = slack.data?.steps
  return (
    <section className="card" aria-label="Slack">
      <div className="card-head">
        <h2>How much slack buys how much</h2>
        <Button size="compact-sm" variant="default" loading={slack.isFetching} onClick={() => setAsked(doubts)}>
          {steps ? 'Work it out again' : 'Work it out'}
        </Button>
      </div>
      {slack.isError && <Failed error={slack.error} retry={() => slack.refetch()} />}
      {steps ? (
        <div className="table-scroll" tabIndex={0} role="region" aria-label="Steps of slack">
          <table className="account">
            <thead>
              <tr>
                <th>Time for each visit</th>
                <th>All done in time</th>
                <th>Past a shift</th>
                <th>Repeated</th>
                <th>Left out</th>
                <th>Moved</th>
                <th>Last day</th>
              </tr>
            </thead>
            <tbody>
              {steps.map((s) => (
                <tr key={s.minutes}>
                  <th>{s.minutes === 0 ? 'as it is' : `${s.minutes} min more`}</th>
                  <td>{percent(s.inTime)}</td>
                  <td className={s.overtime > 0.5 ? 'sign-wants' : ''}>{percent(s.overtime)}</td>
                  <td>{s.repeated.toFixed(1)}</td>
                  <td className={s.leftOut > (steps[0]?.leftOut ?? 0) ? 'sign-stopped' : ''}>{s.leftOut}</td>
                  <td>{s.minutes === 0 ? '' : s.moved}</td>
                  <td>{s.lastDay ? dayText(s.lastDay) : ''}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <p className="soft">
          Makes the plan anew with 15 to 60 minutes more for every visit, and plays each with the lengths as they are estimated. It takes
          some seconds and changes nothing.
        </p>
      )}
      {steps && (
        <p className="soft">
          Past a shift: on the average day with visits. To plan with more time, lengthen an estimate under{' '}
          <Link to="/capacity">Capacity</Link>.
        </p>
      )}
    </section>
  )
}

const forms = [
  { value: 'away', label: 'A technician is away', of: 'technicians', more: '2026-11-26' },
  { value: 'like', label: 'One more technician like', of: 'technicians', more: '' },
  { value: 'benches', label: 'Benches at a site', of: 'sites', more: '3' },
  { value: 'depot', label: 'A depot so many times', of: 'depots', more: '2' },
  { value: 'late', label: 'A delivery late by days', of: 'deliveries', more: '3' },
] as const

function WhatIf() {
  const refresh = useRefresh()
  const world = useQuery(worldQuery(refresh.key))
  const [form, setForm] = useState<(typeof forms)[number]>(forms[0])
  const [thing, setThing] = useState<string | null>(null)
  const [more, setMore] = useState('')
  const [changes, setChanges] = useState<string[]>([])
  const ask = useMutation({
    mutationFn: (all: string[]) =>
      take(
        api.POST('/api/refreshes/{refresh}/plan/what-if', {
          params: { path: { refresh: refresh.key } },
          body: { changes: all, seconds: 2 },
        }),
      ),
  })
  const things = world.data?.[form.of] ?? []
  const add = () => {
    const all = [...changes, `${form.value} "${thing}"${form.more ? ` ${more}` : ''}`]
    setChanges(all)
    ask.mutate(all)
  }
  const w = ask.data
  return (
    <section className="card" aria-label="What if">
      <div className="card-head">
        <h2>What if</h2>
        <span className="soft">nothing is changed</span>
      </div>
      <form
        className="what-if"
        onSubmit={(event) => {
          event.preventDefault()
          if (thing && (!form.more || more)) add()
        }}
      >
        <Select
          label="If"
          data={forms.map((f) => ({ value: f.value, label: f.label }))}
          value={form.value}
          allowDeselect={false}
          onChange={(v) => {
            setForm(forms.find((f) => f.value === v) ?? forms[0])
            setThing(null)
          }}
        />
        <Select label="Which" data={things.map((t) => ({ value: t.key, label: t.name }))} value={thing} onChange={setThing} searchable />
        {form.more && (
          <TextInput
            label={form.value === 'away' ? 'When' : 'How many'}
            placeholder={form.more}
            value={more}
            onChange={(e) => setMore(e.currentTarget.value)}
          />
        )}
        <Button type="submit" disabled={!thing || (!!form.more && !more)} loading={ask.isPending}>
          Ask
        </Button>
      </form>
      {changes.length > 0 && (
        <p className="soft">
          Asked together: {changes.join(' · ')}{' '}
          <button
            type="button"
            className="quiet"
            onClick={() => {
              setChanges([])
              ask.reset()
            }}
          >
            Start over
          </button>
        </p>
      )}
      {ask.isError && <Failed error={ask.error} />}
      {w ? (
        <>
          <p className="verdict">{w.words}</p>
          <ul className="changes">
            {w.leftOut.map((l) => (
              <li key={l.swap}>
                <span className="sign-wants" aria-hidden="true">
                  ▲
                </span>{' '}
                {l.person}: <Reason text={l.because} />
              </li>
            ))}
            {w.letIn.map((l) => (
              <li key={l.swap}>
                <span className="sign-done" aria-hidden="true">
                  ✓
                </span>{' '}
                {l.person} would get in.
              </li>
            ))}
          </ul>
        </>
      ) : (
        !ask.isPending && !ask.isError && <Empty>Ask what a sick day, one more technician or a late delivery would do to the plan.</Empty>
      )}
    </section>
  )
}
