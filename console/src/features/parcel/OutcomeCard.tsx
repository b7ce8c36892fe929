import { Button, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { bytesText, filesText } from '../../shared/amounts'
import { Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { FormDialog } from './FormDialog'
import { lostQuery, useAcceptance, useReceiver, useRescue } from './queries'

/** What only some kinds of swap have: the lost computer of a rescue, the person who receives the parcel of a leave. */
export function OutcomeCard({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  if (seen.swap.kind === 'rescue') return <RescueCard seen={seen} leads={leads} />
  if (seen.swap.kind === 'leave') return <ReceiverCard seen={seen} works={works} leads={leads} />
  return null
}

function RescueCard({ seen, leads }: { seen: SwapSeen; leads: boolean }) {
  const { rescue, swap } = seen
  return (
    <section className="card" aria-labelledby="lost">
      <h2 id="lost">The lost computer</h2>
      {rescue ? (
        <p>
          Served by the parcel of {rescue.from === swap.id ? 'this swap' : `${rescue.from}, ${rescue.name}`}
          {rescue.tag && (
            <>
              {' '}
              (<span className="mono">{rescue.tag}</span>)
            </>
          )}
          . {rescue.words}
        </p>
      ) : leads ? (
        <FindLost id={swap.id} name={swap.name} />
      ) : (
        <p className="soft">No parcel serves this rescue yet. A coordinator finds the lost computer and lets its last good trip serve.</p>
      )}
    </section>
  )
}

function FindLost({ id, name }: { id: string; name: string }) {
  const clock = useClock()
  const [find, setFind] = useState(name.split(' ').at(-1) ?? '')
  const asked = useDeferredValue(find.trim())
  const found = useQuery({ ...lostQuery(asked), enabled: asked.length >= 2 })
  const [chosen, setChosen] = useState<Schemas['LostComputer'] | null>(null)
  return (
    <>
      <TextInput
        label="Find it by tag, person or swap"
        description="Over all refreshes; those that were seen last come first."
        value={find}
        onChange={(e) => setFind(e.currentTarget.value)}
      />
      {found.isError && <Failed error={found.error} />}
      {found.data?.length === 0 && <p className="soft">Nothing was staged from such a computer.</p>}
      <ul className="plain-list">
        {(found.data ?? []).map((l) => (
          <li key={l.swap} className="row-between">
            <span>
              <strong>{l.name}</strong> <span className="mono">{l.tag ?? 'no tag'}</span>
              {l.model && ` · ${l.model}`} · {l.site}
              <br />
              <span className="soft">
                {l.swap}, {l.lastSeen ? `last seen ${clock.full(l.lastSeen)}` : 'never seen'}, {filesText(l.staged.files)} (
                {bytesText(l.staged.bytes)}){!l.lastTripAt && ', its first trip broke off'}
                {l.openSnags > 0 && `, ${l.openSnags === 1 ? '1 snag' : `${l.openSnags} snags`} open`}
                {l.refusal && `. It cannot serve: ${l.refusal}`}
              </span>
            </span>
            <Button size="compact-sm" variant="default" disabled={!!l.refusal} onClick={() => setChosen(l)}>
              Let it serve…
            </Button>
          </li>
        ))}
      </ul>
      {chosen && <ServeDialog id={id} lost={chosen} close={() => setChosen(null)} />}
    </>
  )
}

function ServeDialog({ id, lost, close }: { id: string; lost: Schemas['LostComputer']; close: () => void }) {
  const put = useRescue(id)
  const [tag, setTag] = useState('')
  const send = () => put.mutate({ from: lost.swap, tag: tag.trim() }, { onSuccess: close })
  return (
    <FormDialog
      title="The last good trip serves this rescue"
      close={close}
      change={put}
      send={send}
      action="Let it serve"
      ready={!!tag.trim()}
    >
      <p>
        The parcel of {lost.swap}, {lost.name}, comes to the new computer. To be sure that it is the right one, read the asset tag of the
        lost computer from the person's papers, not from this page.
      </p>
      <TextInput
        label="Asset tag of the lost computer"
        value={tag}
        onChange={(e) => setTag(e.currentTarget.value)}
        required
        data-autofocus
      />
    </FormDialog>
  )
}

function ReceiverCard({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const { handingOver: to, swap } = seen
  const clock = useClock()
  const accept = useAcceptance(swap.id)
  const [changes, setChanges] = useState(false)
  return (
    <section className="card" aria-labelledby="receiver">
      <div className="card-head">
        <h2 id="receiver">Who receives it</h2>
        {to && (
          <span className={to.acceptedAt ? 'sign-done' : 'sign-wants'}>
            <span aria-hidden="true">{to.acceptedAt ? '✓' : '▲'}</span> {to.acceptedAt ? 'accepted' : 'not accepted yet'}
          </span>
        )}
      </div>
      {to ? (
        <p>
          {to.name}
          {to.tag ? (
            <>
              , at <span className="mono">{to.tag}</span>
            </>
          ) : (
            ', at a computer that is not named yet'
          )}
          {to.acceptedAt && `. Accepted ${clock.full(to.acceptedAt)}, written down by ${to.acceptedBy}`}. Nothing of the parcel goes there
          before it is accepted.
        </p>
      ) : (
        <p className="sign-wants">
          <span aria-hidden="true">▲</span> Nobody is named. The files of {swap.name} stay in the depot until somebody receives them.
        </p>
      )}
      <div className="actions">
        {leads && (
          <Button size="compact-sm" variant="default" onClick={() => setChanges(true)}>
            {to ? 'Change…' : 'Name somebody…'}
          </Button>
        )}
        {works && to && !to.acceptedAt && (
          <Button
            size="compact-sm"
            disabled={!seen.parcel?.trips}
            loading={accept.isPending}
            onClick={() => accept.mutate()}
            title={seen.parcel?.trips ? undefined : 'Nothing is staged yet'}
          >
            {to.name} accepts it
          </Button>
        )}
      </div>
      {accept.isError && <Failed error={accept.error} />}
      {changes && <ReceiverDialog id={swap.id} to={to ?? null} close={() => setChanges(false)} />}
    </section>
  )
}

function ReceiverDialog({ id, to, close }: { id: string; to: Schemas['ReceiverSeen'] | null; close: () => void }) {
  const put = useReceiver(id)
  const [person, setPerson] = useState(to?.person ?? '')
  const [tag, setTag] = useState(to?.tag ?? '')
  const send = () => put.mutate({ person: person.trim(), tag: tag.trim() || null }, { onSuccess: close })
  return (
    <FormDialog title="Who receives the parcel" close={close} change={put} send={send} action="Save" ready={!!person.trim()}>
      <TextInput
        label="Person"
        description="Key in the roster, such as k44. Another person must accept anew."
        value={person}
        onChange={(e) => setPerson(e.currentTarget.value)}
        required
        data-autofocus
      />
      <TextInput
        label="Asset tag of that person's computer"
        description="A hand there restores the parcel."
        value={tag}
        onChange={(e) => setTag(e.currentTarget.value)}
      />
    </FormDialog>
  )
}
