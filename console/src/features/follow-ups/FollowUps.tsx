import { Button, NumberInput, SegmentedControl, Select, Textarea, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Link } from '@tanstack/react-router'
import { useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { Word } from '../../shared/Word'
import { instantAt } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { AdoptDialog } from '../parcel/ParcelDialogs'
import { meQuery } from '../session/queries'
import { techniciansQuery } from '../swaps/queries'
import { ChangeDialog } from './ChangeDialog'
import { type FollowUp, followUpsQuery, holdChoices, useEndFollowUp, useOpenFollowUp } from './queries'

const holds: Record<Schemas['FollowUpHold'], string> = { nothing: '', wipe: 'holds the wipe', signOff: 'holds the sign-offs' }

/** Everything that is still to be done beside the checklists, due first. */
export function FollowUpsPage() {
  const refresh = useRefresh()
  const [end, setEnd] = useState<'open' | 'all'>('open')
  const all = useQuery(followUpsQuery(refresh.key, end))
  const me = useQuery(meQuery)
  const late = (all.data ?? []).filter((f) => !f.doneAt && Date.parse(f.due) < Date.now()).length
  const open = (all.data ?? []).filter((f) => !f.doneAt).length
  return (
    <>
      <header className="head">
        <div>
          <div className="titled">
            <h1>Follow-ups</h1>
            <Word of="follow-up" />
          </div>
          <p className="soft">
            {open} open{late ? <strong>, {late} overdue</strong> : ''}
          </p>
        </div>
        <SegmentedControl
          aria-label="Which"
          data={[
            { value: 'open', label: 'Open' },
            { value: 'all', label: 'All' },
          ]}
          value={end}
          onChange={(value) => setEnd(value as 'open' | 'all')}
        />
      </header>
      <section className="card" aria-label="Follow-ups">
        {all.isPending ? (
          <Coming rows={6} />
        ) : all.isError ? (
          <Failed error={all.error} retry={() => all.refetch()} />
        ) : all.data.length === 0 ? (
          <Empty>
            <Sign sign="done" quiet /> Nothing is left over. What a desk cannot settle is opened as a follow-up on the swap's page.
          </Empty>
        ) : (
          <ul className="rows">
            {all.data.map((f) => (
              <Row
                key={f.id}
                f={f}
                named
                works={me.data?.role === 'coordinator' || (me.data?.role === 'technician' && me.data.sites.includes(f.site))}
              />
            ))}
          </ul>
        )}
      </section>
    </>
  )
}

/** Those of one swap, and the way to open one. */
export function FollowUpsCard({ seen, works }: { seen: SwapSeen; works: boolean }) {
  const [opens, setOpens] = useState(false)
  const all = seen.followUps ?? []
  return (
    <section className="card" aria-labelledby="follow-ups">
      <div className="card-head">
        <h2 id="follow-ups">Follow-ups</h2>
        {works && (
          <Button size="compact-sm" variant="default" onClick={() => setOpens(true)}>
            Open a follow-up…
          </Button>
        )}
      </div>
      {all.length === 0 ? (
        <p className="soft">None. What cannot be settled at the desk goes here, with an owner and a time.</p>
      ) : (
        <ul className="rows">
          {all.map((f) => (
            <Row key={f.id} f={f} works={works} />
          ))}
        </ul>
      )}
      {opens && <OpenDialog seen={seen} close={() => setOpens(false)} />}
    </section>
  )
}

const backText = (f: FollowUp, clock: ReturnType<typeof useClock>) =>
  f.visit
    ? f.visit.start
      ? `${f.visit.technician} comes back ${clock.full(f.visit.start)}, ${f.visit.minutes} min · `
      : `somebody must come back for ${f.visit.minutes} min, and nobody has room yet · `
    : ''

function Row({ f, works, named = false }: { f: FollowUp; works: boolean; named?: boolean }) {
  const clock = useClock()
  const [ends, setEnds] = useState(false)
  const [takes, setTakes] = useState(false)
  const [changes, setChanges] = useState(false)
  const me = useQuery(meQuery)
  const late = !f.doneAt && Date.parse(f.due) < Date.now()
  return (
    <li className="need-row">
      <Sign sign={f.doneAt ? 'done' : late ? 'wants' : 'ahead'} />
      <div>
        {named && (
          <Link to="/swaps/$swap" params={{ swap: f.swap }} className="strong">
            {f.name}
          </Link>
        )}{' '}
        {f.words}
        <p className="soft">
          {f.doneAt
            ? `${f.doneBy}, ${clock.full(f.doneAt)}: ${f.outcome}`
            : `${backText(f, clock)}${f.ownerName}, ${late ? 'was due' : 'until'} ${clock.full(f.due)}${f.holds === 'nothing' ? '' : ` · ${holds[f.holds]}`}`}
        </p>
      </div>
      {me.data?.role === 'coordinator' && !f.doneAt && f.cause === 'folder' && (
        <Button size="compact-sm" variant="default" onClick={() => setTakes(true)} aria-label={`Take in: ${f.words}`}>
          Take in…
        </Button>
      )}
      {takes && <AdoptDialog id={f.swap} named={f.words.slice(f.words.indexOf(': ') + 2)} close={() => setTakes(false)} />}
      {works && !f.doneAt && (
        <span className="actions">
          <Button size="compact-sm" variant="default" onClick={() => setChanges(true)} aria-label={`Change: ${f.words}`}>
            Change…
          </Button>
          <Button size="compact-sm" variant="default" onClick={() => setEnds(true)} aria-label={`End: ${f.words}`}>
            End…
          </Button>
        </span>
      )}
      {changes && <ChangeDialog f={f} close={() => setChanges(false)} />}
      {ends && <EndDialog f={f} close={() => setEnds(false)} />}
    </li>
  )
}

function EndDialog({ f, close }: { f: FollowUp; close: () => void }) {
  const end = useEndFollowUp()
  const [outcome, setOutcome] = useState('')
  return (
    <FormDialog
      title="End this follow-up"
      close={close}
      change={end}
      send={() => end.mutate({ id: f.id, outcome }, { onSuccess: close })}
      action="End it"
      ready={!!outcome.trim()}
    >
      <p>{f.words}</p>
      <Textarea
        label="What came of it?"
        value={outcome}
        onChange={(e) => setOutcome(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={500}
        autosize
        minRows={2}
      />
    </FormDialog>
  )
}

function OpenDialog({ seen, close }: { seen: SwapSeen; close: () => void }) {
  const open = useOpenFollowUp(seen.swap.id)
  const clock = useClock()
  const me = useQuery(meQuery)
  const technicians = useQuery(techniciansQuery(useRefresh().key))
  const [words, setWords] = useState('')
  const [owner, setOwner] = useState<string | null>(null)
  const [due, setDue] = useState('')
  const [back, setBack] = useState<number | string>('')
  const [hold, setHold] = useState<Schemas['FollowUpHold']>('nothing')
  const who = [
    ...(me.data ? [{ value: me.data.name, label: `${me.data.shown} (you)` }] : []),
    ...(technicians.data ?? []).filter((t) => t.key !== me.data?.name).map((t) => ({ value: t.key, label: t.name })),
  ]
  return (
    <FormDialog
      title={`Follow-up for ${seen.swap.name}`}
      close={close}
      change={open}
      send={() =>
        open.mutate(
          {
            words,
            owner: owner ?? me.data?.name ?? null,
            due: due ? instantAt(due, clock.zone) : null,
            holds: hold,
            visitMinutes: back === '' ? null : Number(back),
          },
          { onSuccess: close },
        )
      }
      action="Open it"
      ready={!!words.trim()}
    >
      <Textarea
        label="What is to be done?"
        value={words}
        onChange={(e) => setWords(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={500}
        autosize
        minRows={2}
      />
      <Select label="Who does it?" data={who} value={owner ?? me.data?.name ?? null} onChange={setOwner} allowDeselect={false} />
      <TextInput
        type="datetime-local"
        label="Until when?"
        description="Left empty: the end of tomorrow."
        value={due}
        onChange={(e) => setDue(e.currentTarget.value)}
      />
      <NumberInput
        label="Must somebody come back?"
        description="For how many minutes; the first time that fits is promised at once. Left empty: nobody must."
        min={5}
        max={240}
        step={5}
        value={back}
        onChange={setBack}
      />
      <Select
        label="What does it hold up?"
        data={holdChoices}
        value={hold}
        onChange={(value) => setHold((value ?? 'nothing') as Schemas['FollowUpHold'])}
        allowDeselect={false}
      />
    </FormDialog>
  )
}
