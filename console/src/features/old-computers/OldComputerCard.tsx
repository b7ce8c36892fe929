import { Button, Checkbox, Select, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { Sign } from '../../shared/Sign'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { type Act, historyQuery, type OldComputer, useMoveOld, useWipe } from './queries'
import { stateSigns, stateWords } from './states'

const acts: Record<Act, string> = {
  taken: 'in the hands of',
  placed: 'lies at',
  loaded: 'onto pallet',
  unloaded: 'off its pallet, to',
  returned: 'returned to',
  donated: 'given to',
  disposed: 'scrapped by',
  lost: 'lost; last at',
  stolen: 'stolen; last at',
  found: 'found; it is at',
}

/** The old computer of one swap: where it is, what stands in the way of its wipe, its way so far. */
export function OldComputerCard({ seen, works }: { seen: SwapSeen; works: boolean }) {
  const clock = useClock()
  const refresh = useRefresh()
  const [asks, setAsks] = useState<'move' | 'wipe' | 'way' | null>(null)
  const o = seen.oldComputer
  const way = useQuery({ ...historyQuery(refresh.key, o?.tag ?? ''), enabled: asks === 'way' && !!o })
  if (!o) return null
  return (
    <section className="card" aria-labelledby="old-computer">
      <div className="card-head">
        <h2 id="old-computer">
          Old computer <span className="mono">{o.tag}</span>
        </h2>
        {works && !o.end && (
          <span className="actions">
            <Button size="compact-sm" variant="default" onClick={() => setAsks('move')}>
              Say where it is…
            </Button>
            {o.wipe?.result !== 'done' && (
              <Button size="compact-sm" variant="default" disabled={o.missing.length > 0} onClick={() => setAsks('wipe')}>
                Record its wipe…
              </Button>
            )}
          </span>
        )}
      </div>
      <p>
        <Sign sign={stateSigns[o.state] ?? 'ahead'} quiet /> <strong>{stateWords[o.state] ?? o.state}</strong> · {o.words}
        {o.since ? <span className="soft"> since {clock.full(o.since)}</span> : null}
      </p>
      {o.wipe && (
        <p className="soft">
          {o.wipe.result === 'done' ? 'Wiped' : 'Could not be wiped'} by {o.wipe.by}, {clock.full(o.wipe.at)}: {o.wipe.method};{' '}
          {o.wipe.evidence}
        </p>
      )}
      {!o.end && o.missing.length > 0 && (
        <>
          <p className="soft">Before it may be wiped:</p>
          <ul className="missing soft">
            {o.missing.map((m) => (
              <li key={m}>{m}</li>
            ))}
          </ul>
        </>
      )}
      <p>
        <button type="button" className="quiet" aria-expanded={asks === 'way'} onClick={() => setAsks(asks === 'way' ? null : 'way')}>
          Its way so far
        </button>
      </p>
      {asks === 'way' && (
        <ul className="history">
          {(way.data?.moves ?? []).map((m) => (
            <li key={m.id}>
              <span className="mono soft">{clock.full(m.at)}</span>
              <span>
                {m.act ? acts[m.act] : ''} {m.where} <span className="soft">told by {m.by}</span>
              </span>
            </li>
          ))}
          {way.data?.moves.length === 0 && <li className="soft">Nobody has moved it yet.</li>}
        </ul>
      )}
      {asks === 'move' && <MoveDialog o={o} close={() => setAsks(null)} />}
      {asks === 'wipe' && <WipeDialog o={o} close={() => setAsks(null)} />}
    </section>
  )
}

function MoveDialog({ o, close }: { o: OldComputer; close: () => void }) {
  const move = useMoveOld(useRefresh().key)
  const [act, setAct] = useState<Act>('placed')
  const [where, setWhere] = useState('')
  const asks = act !== 'taken'
  return (
    <FormDialog
      title={`Where is ${o.tag}?`}
      close={close}
      change={move}
      send={() => move.mutate({ tag: o.tag, act, where: asks ? where : null }, { onSuccess: close })}
      action="Say so"
      ready={!asks || !!where.trim()}
    >
      <Select
        label="What happened?"
        data={[
          { value: 'taken', label: 'I have it in hand' },
          { value: 'placed', label: 'It lies at a place' },
          { value: 'loaded', label: 'It is on a pallet' },
          ...(o.pallet ? [{ value: 'unloaded', label: 'It is off its pallet' }] : []),
        ]}
        value={act}
        onChange={(value) => setAct((value ?? 'placed') as Act)}
        allowDeselect={false}
      />
      {asks && (
        <TextInput
          label={act === 'loaded' ? 'Which pallet?' : 'Where?'}
          value={where}
          onChange={(e) => setWhere(e.currentTarget.value)}
          data-autofocus
          required
          maxLength={120}
        />
      )}
    </FormDialog>
  )
}

function WipeDialog({ o, close }: { o: OldComputer; close: () => void }) {
  const wipe = useWipe(useRefresh().key, o.tag)
  const [method, setMethod] = useState('')
  const [evidence, setEvidence] = useState('')
  const [result, setResult] = useState<'done' | 'failed'>('done')
  const [alone, setAlone] = useState(false)
  const asksAlone = o.alone && result === 'done'
  return (
    <FormDialog
      title={`Wipe of ${o.tag}`}
      close={close}
      change={wipe}
      send={() => wipe.mutate({ method, evidence, result, alone: asksAlone && alone }, { onSuccess: close })}
      action="Record it"
      ready={!!method.trim() && !!evidence.trim() && (!asksAlone || alone)}
    >
      <TextInput
        label="How?"
        description="Such as: three passes; key thrown away; disk destroyed."
        value={method}
        onChange={(e) => setMethod(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={120}
      />
      <Select
        label="With what result?"
        data={[
          { value: 'done', label: 'It is wiped' },
          { value: 'failed', label: 'It could not be wiped' },
        ]}
        value={result}
        onChange={(value) => setResult((value ?? 'done') as typeof result)}
        allowDeselect={false}
      />
      <TextInput
        label="What proves it?"
        description="Number of a certificate, name of a report, or what was seen."
        value={evidence}
        onChange={(e) => setEvidence(e.currentTarget.value)}
        required
        maxLength={500}
      />
      {asksAlone && (
        <Checkbox
          label={`Only the hand at ${o.tag} itself has verified what was carried from it. Wipe it all the same, and say so on its paper.`}
          description="Or have the parcel verified by the service or at another computer first."
          checked={alone}
          onChange={(e) => setAlone(e.currentTarget.checked)}
        />
      )}
    </FormDialog>
  )
}
