import { Button, Modal, NativeSelect, PasswordInput, Textarea, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { repeatKey, type Schemas } from '../../api/client'
import { Coming, Empty, Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { tell, worldQuery } from '../plan/queries'
import { meQuery } from '../session/queries'
import { ChoosingCard } from './ChoosingCard'
import { PlaceRulesCard } from './PlaceRulesCard'
import { RealLengths } from './RealLengths'
import { SwapsField } from './SwapsField'
import { type Field, type Thing, things, type Values } from './things'

/** All that a plan is made from, each with a default, each to be changed here. */
export function CapacityPage() {
  const refresh = useRefresh()
  const world = useQuery(worldQuery(refresh.key))
  const me = useQuery(meQuery)
  const [editing, setEditing] = useState<{ thing: Thing; values: Values; isNew: boolean } | null>(null)
  if (world.isPending) return <Coming rows={12} />
  if (world.isError) return <Failed error={world.error} retry={() => world.refetch()} />
  const leads = me.data?.role === 'coordinator'
  return (
    <>
      <header className="head">
        <div>
          <h1>Capacity</h1>
          <p className="soft">What a plan is made from. Everything has a default: a first plan needs the roster and one technician only.</p>
        </div>
      </header>
      {things.map((thing) => {
        const rows = thing.rows(world.data)
        return (
          <section key={thing.name} className="card" aria-label={thing.name}>
            <div className="card-head">
              <h2>
                {thing.name} <span className="soft why">{thing.why}</span>
              </h2>
              {leads && (
                <span className="actions">
                  {thing.one === 'technician' && <TakeTechnicians />}
                  {thing.one === 'closure' && <TakeCalendar />}
                  <Button
                    size="compact-sm"
                    variant="default"
                    onClick={() => setEditing({ thing, values: thing.fresh, isNew: true })}
                    aria-label={`Add a ${thing.one}`}
                  >
                    Add
                  </Button>
                </span>
              )}
            </div>
            {rows.length === 0 ? (
              <Empty>None.</Empty>
            ) : (
              <div className="table-scroll" tabIndex={0} role="group" aria-label={`All ${thing.name.toLowerCase()}`}>
                <table className="account words">
                  <thead>
                    <tr>
                      {thing.heads.map((h) => (
                        <th key={h}>{h}</th>
                      ))}
                    </tr>
                  </thead>
                  <tbody>
                    {rows.map((row) => (
                      <tr key={row.key}>
                        {row.cells.map((cell, i) =>
                          i === 0 ? (
                            <th key={thing.heads[0]}>
                              {leads ? (
                                <button
                                  type="button"
                                  className="quiet strong"
                                  onClick={() => setEditing({ thing, values: row.values, isNew: false })}
                                  aria-label={`Change ${cell}`}
                                >
                                  {cell}
                                </button>
                              ) : (
                                cell
                              )}
                            </th>
                          ) : (
                            <td key={thing.heads[i]}>{cell}</td>
                          ),
                        )}
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
          </section>
        )
      })}
      <ChoosingCard refresh={refresh.key} leads={leads} />
      <RealLengths refresh={refresh.key} leads={leads} />
      <PlaceRulesCard refresh={refresh.key} leads={leads} />
      {editing && (
        <Edit key={editing.values.key ?? 'new'} {...editing} sites={world.data.sites.map((s) => s.key)} close={() => setEditing(null)} />
      )}
    </>
  )
}

type Listed = Schemas['TechniciansTaken']

/** A list of technicians: looked at first, then taken whole. */
function TakeTechnicians() {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [file, setFile] = useState<File | null>(null)
  const send = useMutation({
    mutationFn: async ({ from, dryRun }: { from: File; dryRun: boolean }): Promise<Listed> => {
      const answer = await fetch(`/api/refreshes/${encodeURIComponent(refresh.key)}/technicians/table?dryRun=${dryRun}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/octet-stream', ...repeatKey() },
        body: from,
      })
      const body = await answer.json()
      if (!answer.ok) throw new Error(body.detail)
      return body
    },
    onSuccess: (_, { dryRun }) => {
      if (dryRun) return
      setFile(null)
      queries.invalidateQueries({ queryKey: ['world'] })
    },
  })
  const seen = send.data
  return (
    <>
      <label className="file-button">
        Take a list
        <input
          type="file"
          accept=".csv,.xlsx,text/csv"
          onChange={(e) => {
            const from = e.currentTarget.files?.[0]
            e.currentTarget.value = ''
            if (!from) return
            setFile(from)
            send.mutate({ from, dryRun: true })
          }}
        />
      </label>
      {file && (
        <Modal opened onClose={() => setFile(null)} title={`Technicians from ${file.name}`} closeOnClickOutside={false} size="lg">
          <div className="stack">
            {send.isError && <Failed error={send.error} retry={() => send.mutate({ from: file, dryRun: true })} />}
            {seen && (
              <>
                <p className="verdict">
                  {seen.added} to add, {seen.changed} to change, {seen.same} the same.
                </p>
                <ul className="changes" tabIndex={0} aria-label="Technicians in the list">
                  {seen.technicians.map((t) => (
                    <li key={t.key}>
                      <strong>{t.name}</strong>{' '}
                      <span className="soft">
                        {t.sites.join(', ')} · {t.shifts.join(', ')}
                        {t.skills.length > 0 && ` · knows ${t.skills.join(', ')}`}
                        {t.absences.length > 0 && ` · away ${t.absences.join(', ')}`}
                      </span>
                    </li>
                  ))}
                  {seen.rejected.map((r) => (
                    <li key={`${r.line}${r.column}${r.reason}`}>
                      <span className="sign-stopped" aria-hidden="true">
                        ■
                      </span>{' '}
                      Line {r.line}
                      {r.column && `, ${r.column}`}
                      {r.value && <span className="mono"> {r.value}</span>}: {r.reason} {r.remedy}
                    </li>
                  ))}
                </ul>
              </>
            )}
            <p className="soft">
              Columns: key, name, sites, skills, shifts, away. Name alone must be there; several of a thing with ; between.
            </p>
            <div className="actions">
              <Button variant="default" onClick={() => setFile(null)}>
                Cancel
              </Button>
              <Button
                loading={send.isPending}
                disabled={!seen || seen.rejected.length > 0 || seen.added + seen.changed === 0}
                onClick={() => send.mutate({ from: file, dryRun: false })}
              >
                {seen && seen.added + seen.changed === 0 && seen.rejected.length === 0 ? 'Nothing to take' : 'Take them'}
              </Button>
            </div>
          </div>
        </Modal>
      )}
    </>
  )
}

function TakeCalendar() {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const send = useMutation({
    mutationFn: async (file: File) => {
      const answer = await fetch(`/api/refreshes/${encodeURIComponent(refresh.key)}/closures/calendar`, {
        method: 'POST',
        headers: { 'Content-Type': 'text/calendar' },
        body: file,
      })
      if (!answer.ok) throw new Error((await answer.json()).detail)
    },
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: ['world'] }),
  })
  return (
    <label className="file-button">
      Take a calendar
      <input
        type="file"
        accept=".ics,text/calendar"
        onChange={(e) => {
          const file = e.currentTarget.files?.[0]
          if (file) send.mutate(file)
          e.currentTarget.value = ''
        }}
      />
    </label>
  )
}

function Edit({
  thing,
  values: first,
  isNew,
  sites,
  close,
}: {
  thing: Thing
  values: Values
  isNew: boolean
  sites: string[]
  close: () => void
}) {
  const refresh = useRefresh()
  const queries = useQueryClient()
  const [values, setValues] = useState<Values>(first)
  const after = { onSuccess: close, onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }) }
  const put = useMutation({ mutationFn: () => thing.put(refresh.key, values), ...after })
  const drop = useMutation({
    mutationFn: () => thing.drop?.(refresh.key, values.key ?? `${values.scope}/${values.of}`) ?? Promise.resolve(),
    ...after,
  })
  const missing = thing.fields.filter((f) => f.needed && !values[f.key]?.trim())
  return (
    <Modal opened onClose={close} title={isNew ? `A new ${thing.one}` : `Change the ${thing.one}`} closeOnClickOutside={false}>
      <form
        className="stack"
        onSubmit={(event) => {
          event.preventDefault()
          if (missing.length === 0) put.mutate()
        }}
      >
        {thing.fields.map((field) => (
          <Input
            key={field.key}
            field={field}
            value={values[field.key] ?? ''}
            fixed={!isNew && ['key', 'scope', 'of', 'from', 'to'].includes(field.key)}
            sites={sites}
            set={(v) => setValues({ ...values, [field.key]: v })}
          />
        ))}
        {(put.isError || drop.isError) && <Failed error={put.error ?? drop.error} />}
        <div className="actions">
          {!isNew && thing.drop && (
            <Button variant="default" loading={drop.isPending} onClick={() => drop.mutate()}>
              Take out
            </Button>
          )}
          <Button
            type="submit"
            loading={put.isPending}
            disabled={missing.length > 0}
            title={missing.length ? `Missing: ${missing.map((m) => m.label).join(', ')}` : undefined}
          >
            Save
          </Button>
        </div>
      </form>
    </Modal>
  )
}

function Input({
  field,
  value,
  fixed,
  sites,
  set,
}: {
  field: Field
  value: string
  fixed: boolean
  sites: string[]
  set: (value: string) => void
}) {
  const common = { label: field.label, description: field.help, required: field.needed, disabled: fixed, value }
  switch (field.as) {
    case 'lines':
      return <Textarea {...common} autosize minRows={2} maxRows={8} onChange={(e) => set(e.currentTarget.value)} />
    case 'site':
      return (
        <NativeSelect
          {...common}
          data={[{ value: '', label: '' }, ...sites.map((s) => ({ value: s, label: s }))]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'yes':
      return (
        <NativeSelect
          {...common}
          data={[
            { value: '', label: 'no' },
            { value: 'yes', label: 'yes' },
          ]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'scope':
      return (
        <NativeSelect
          {...common}
          data={[
            { value: 'kind', label: 'a kind of swap' },
            { value: 'model', label: 'a model of new computer' },
            { value: 'swap', label: 'one swap' },
          ]}
          onChange={(e) => set(e.currentTarget.value)}
        />
      )
    case 'number':
      return <TextInput {...common} inputMode="decimal" onChange={(e) => set(e.currentTarget.value.replace(/[^0-9.]/g, ''))} />
    case 'date':
      return <TextInput {...common} type="date" onChange={(e) => set(e.currentTarget.value)} />
    case 'swaps':
      return <SwapsField {...common} set={set} />
    case 'secret':
      return <PasswordInput {...common} autoComplete="new-password" onChange={(e) => set(e.currentTarget.value)} />
    case 'key':
    case 'text':
      return <TextInput {...common} onChange={(e) => set(e.currentTarget.value)} />
  }
}
