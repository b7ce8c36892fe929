import { Button, Checkbox, NativeSelect, Progress } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import { Coming, Empty, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { meQuery, useOversees } from '../session/queries'
import { type Options, type Stage, sendRoster, type Taken, takingsQuery, useMatch, useUndoTaking } from './queries'

const columns = [
  'person',
  'name',
  'mail',
  'department',
  'role',
  'site',
  'room',
  'kind',
  'old_tag',
  'old_model',
  'old_platform',
  'new_tag',
  'new_model',
  'new_platform',
  'receiver',
  'closes',
  'accounts',
  'free',
  'preferred',
  'wave',
]

/** The roster: a file is looked at, its columns matched, then taken; and a taking undone. */
export function RosterPage() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const queries = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const [options, setOptions] = useState<Options>({ dryRun: true, skipFaulty: false, dropGone: false })
  const [state, setState] = useState<{ seen?: Taken; done?: Taken; error?: unknown; at?: Stage }>({})
  const match = useMatch(refresh.key)
  const leads = me.data?.role === 'coordinator'
  const oversees = useOversees()
  const send = async (from: File, how: Options) => {
    setState((was) => ({ ...was, error: undefined, at: { stage: 'sending', share: 0, of: 0 } }))
    try {
      const taken = await sendRoster(refresh.key, from, how, (at) => setState((was) => ({ ...was, at })))
      setState(how.dryRun ? { seen: taken } : { done: taken })
      if (!how.dryRun) {
        setFile(null)
        await queries.invalidateQueries()
      }
    } catch (error) {
      setState((was) => ({ ...was, error, at: undefined }))
    }
  }
  const look = (from: File | null) => {
    setFile(from)
    if (from) send(from, { ...options, dryRun: true })
  }
  const { seen, done } = state
  return (
    <>
      <header className="head">
        <div>
          <h1>Roster</h1>
          <p className="soft">
            The list of people and computers. A newer file updates it; it never duplicates anybody, and never drops somebody whose swap is
            under way.
          </p>
        </div>
        <div className="actions">
          {(['xlsx', 'csv'] as const).map((form) => (
            <a key={form} href={`/api/roster-template?form=${form}`}>
              Blank {form === 'csv' ? 'CSV' : 'workbook'}
            </a>
          ))}
          <a href="/api/roster-template?form=xlsx&sample=true">Sample</a>
        </div>
      </header>
      {leads ? (
        <section className="card" aria-label="Take a roster">
          <label
            className="drop"
            onDragOver={(e) => e.preventDefault()}
            onDrop={(e) => {
              e.preventDefault()
              look(e.dataTransfer.files[0] ?? null)
            }}
          >
            <input
              type="file"
              accept=".csv,.xlsx,.txt,text/csv"
              onChange={(e) => {
                look(e.currentTarget.files?.[0] ?? null)
                e.currentTarget.value = ''
              }}
            />
            <strong>{file ? file.name : 'Choose a spreadsheet, or drop it here'}</strong>
            <span className="soft">{file ? 'Choose another' : 'CSV or XLSX. Nothing is taken before you have looked at it.'}</span>
          </label>
          {state.at && <Underway at={state.at} />}
          {state.error !== undefined && <Failed error={state.error} retry={file ? () => send(file, options) : undefined} />}
          {done && (
            <p className="verdict" role="status">
              <span className="sign-done" aria-hidden="true">
                ✓
              </span>{' '}
              {done.added} added, {done.changed} changed, {done.same} the same. Next: <Link to="/capacity">technicians and dates</Link>,
              then <Link to="/plan">the plan</Link>.
            </p>
          )}
          {seen && file && (
            <Preview
              seen={seen}
              options={options}
              setOptions={setOptions}
              take={() => send(file, { ...options, dryRun: false })}
              taking={state.at !== undefined}
              rematch={async (head, column) => {
                await match.mutateAsync({ [head]: column })
                await send(file, { ...options, dryRun: true })
              }}
            />
          )}
        </section>
      ) : (
        <Empty>Only a coordinator takes a roster.</Empty>
      )}
      {oversees && <Takings leads={leads} />}
    </>
  )
}

const doing = { sending: 'Sending', waiting: 'Waiting', reading: 'Reading', comparing: 'Comparing', saving: 'Saving' } as const

/** What is being done with the file at this moment, and how far it is. */
function Underway({ at }: { at: Stage }) {
  const unknown = at.stage === 'saving' || (at.stage === 'sending' && at.share >= 1)
  const words = `${doing[at.stage as keyof typeof doing] ?? at.stage}${at.of > 0 ? ` ${at.of.toLocaleString('en')} rows` : ''}`
  return (
    <div className="underway" role="status">
      <span className="soft">
        {words} <span className="figures">{unknown ? '' : `${Math.floor(100 * at.share)} %`}</span>
      </span>
      <Progress value={unknown ? 100 : 100 * at.share} animated={unknown} aria-label={words} />
    </div>
  )
}

type PreviewProps = {
  seen: Taken
  options: Options
  setOptions: (o: Options) => void
  take: () => void
  taking: boolean
  rematch: (head: string, column: string) => void
}

function Preview({ seen, options, setOptions, take, taking, rematch }: PreviewProps) {
  const nothing = seen.added + seen.changed === 0 && !(options.dropGone && seen.gone > 0)
  const blocked = seen.rejected.length > 0 && !options.skipFaulty
  return (
    <div className="stack">
      <p className="verdict">
        {seen.rows} rows: <strong>{seen.added}</strong> to add, <strong>{seen.changed}</strong> to change, {seen.same} the same
        {seen.gone > 0 && `, ${seen.gone} of the refresh are not in the file`}
        {seen.rejected.length > 0 && (
          <>
            ,{' '}
            <span className="sign-stopped">
              ■ {seen.rejected.length} {seen.rejected.length === 1 ? 'fault' : 'faults'}
            </span>
          </>
        )}
        .
      </p>
      <div className="table-scroll" tabIndex={0} role="region" aria-label="Columns">
        <table className="account matches">
          <thead>
            <tr>
              <th>Column of the file</th>
              <th>Read as</th>
              <th>How</th>
              <th>For instance</th>
            </tr>
          </thead>
          <tbody>
            {seen.columns.map((c) => (
              <tr key={c.head}>
                <th>{c.head}</th>
                <td>
                  <NativeSelect
                    size="xs"
                    miw="9rem"
                    aria-label={`Read '${c.head}' as`}
                    value={c.column}
                    data={[{ value: '', label: 'left out' }, ...columns.map((k) => ({ value: k, label: k.replace('_', ' ') }))]}
                    onChange={(e) => rematch(c.head, e.currentTarget.value)}
                  />
                </td>
                <td className="soft">{c.by === 'guess' ? 'by guess' : c.by === 'hand' ? 'by hand' : ''}</td>
                <td>{c.samples.join(' · ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {seen.rejected.length > 0 && (
        <ul className="changes" tabIndex={0} aria-label="Faults">
          {seen.rejected.map((r) => (
            <li key={`${r.line}${r.column}${r.value}${r.reason}`}>
              <span className="sign-stopped" aria-hidden="true">
                ■
              </span>{' '}
              Line {r.line}
              {r.column && `, ${r.column.replace('_', ' ')}`}
              {r.value && <span className="mono"> {r.value}</span>}: {r.reason} {r.remedy}
            </li>
          ))}
        </ul>
      )}
      {seen.changes.length > 0 && (
        <ul className="changes" tabIndex={0} aria-label="Changes">
          {seen.changes.map((c) => (
            <li key={c.swap + c.change}>
              <span className={c.change === 'added' ? 'sign-done' : c.change === 'changed' ? 'sign-wants' : 'soft'}>{c.change}</span>{' '}
              <strong>{c.person}</strong> <span className="soft">{c.what}</span>
            </li>
          ))}
        </ul>
      )}
      <div className="actions">
        {seen.rejected.length > 0 && (
          <Checkbox
            label="Take the good rows without them"
            checked={options.skipFaulty}
            onChange={(e) => setOptions({ ...options, skipFaulty: e.currentTarget.checked })}
          />
        )}
        {seen.gone > 0 && (
          <Checkbox
            label="Take out who is not in the file and has not begun"
            checked={options.dropGone}
            onChange={(e) => setOptions({ ...options, dropGone: e.currentTarget.checked })}
          />
        )}
        <Button onClick={take} disabled={nothing || blocked} loading={taking}>
          {nothing ? 'Nothing to take' : 'Take it'}
        </Button>
      </div>
    </div>
  )
}

function Takings({ leads }: { leads: boolean }) {
  const refresh = useRefresh()
  const clock = useClock()
  const takings = useQuery(takingsQuery(refresh.key))
  const undo = useUndoTaking(refresh.key)
  if (takings.isPending) return <Coming rows={3} />
  if (takings.isError) return <Failed error={takings.error} retry={() => takings.refetch()} />
  return (
    <section className="card" aria-labelledby="takings">
      <div className="card-head">
        <h2 id="takings">Taken so far</h2>
      </div>
      {takings.data.length === 0 ? (
        <Empty>No roster was taken yet. The blank workbook above shows the columns.</Empty>
      ) : (
        <ul className="rows">
          {takings.data.map((t) => (
            <li key={t.number} className="taking-row">
              <span className="figures">{t.number}</span>
              <span>
                {clock.full(t.at)}, {t.by}: {t.added} added, {t.changed} changed
              </span>
              {t.whyNotUndone ? (
                <span className="soft">Not to be undone: {t.whyNotUndone}.</span>
              ) : (
                leads && (
                  <Button
                    size="compact-sm"
                    variant="default"
                    loading={undo.isPending}
                    onClick={() => undo.mutate(t.number)}
                    aria-label={`Undo taking ${t.number}`}
                  >
                    Undo
                  </Button>
                )
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
