import { Button, Textarea } from '@mantine/core'
import { useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { useClock } from '../../shared/zone'
import { FormDialog } from '../parcel/FormDialog'
import { Drawn } from './Drawing'
import { PersonSigns } from './PersonSigns'
import { useReopening, useSignOff } from './queries'

type Part = Schemas['SignOffSeen']

const names: Record<Schemas['SignOffPart'], string> = { technician: 'Technician', person: 'Person', coordinator: 'Coordinator' }

/** Who signed what, what is missing for it, and the way back. */
export function SignOffs({ seen, works, leads }: { seen: SwapSeen; works: boolean; leads: boolean }) {
  const isSigned = (part: Schemas['SignOffPart']) => seen.signOffs.some((s) => s.part === part && s.by)
  return (
    <div className="sign-offs">
      {seen.signOffs.map((part) =>
        part.by ? (
          <Signed key={part.part} swap={seen.swap.id} part={part} mayReopen={works && (leads || !isSigned('coordinator'))} />
        ) : part.part === 'person' ? (
          part.missing.length === 0 && works ? (
            <PersonSigns key={part.part} seen={seen} part={part} />
          ) : null
        ) : part.part === 'coordinator' && !isSigned('technician') ? null : (
          <Unsigned key={part.part} swap={seen.swap.id} part={part} maySign={works && (part.part === 'technician' || leads)} />
        ),
      )}
      <p>
        <a href={`/api/swaps/${seen.swap.id}/paper.pdf`} target="_blank" rel="noreferrer">
          The whole swap on paper
        </a>
      </p>
    </div>
  )
}

function Signed({ swap, part, mayReopen }: { swap: string; part: Part; mayReopen: boolean }) {
  const clock = useClock()
  const [asks, setAsks] = useState(false)
  return (
    <div>
      <span className="sign-done" aria-hidden="true">
        ✓
      </span>{' '}
      <strong>{names[part.part]} signed off:</strong>{' '}
      <span className="soft">
        {part.by}
        {part.at ? `, ${clock.full(part.at)}` : ''}
        {part.witness ? `, for ${part.witness}, who was there` : ''}
      </span>{' '}
      <a
        href={`/api/swaps/${swap}/sign-offs/${part.part}/paper`}
        target="_blank"
        rel="noreferrer"
        title={`SHA-256 ${part.sha256}; the ledger has the same`}
      >
        What was signed
      </a>
      {mayReopen && (
        <>
          {' · '}
          <button type="button" className="quiet" onClick={() => setAsks(true)}>
            Open again…
          </button>
        </>
      )}
      {part.drawn && <Drawn path={part.drawn} by={part.by ?? ''} />}
      {asks && <Reopening swap={swap} part={part} close={() => setAsks(false)} />}
    </div>
  )
}

function Unsigned({ swap, part, maySign }: { swap: string; part: Part; maySign: boolean }) {
  const sign = useSignOff(swap)
  if (part.missing.length > 0)
    return (
      <div>
        <p>
          <strong>{part.part === 'technician' ? 'Cannot be signed off yet:' : 'The coordinator cannot sign yet:'}</strong>
        </p>
        <ul className="missing soft">
          {part.missing.map((m) => (
            <li key={m}>{m}</li>
          ))}
        </ul>
      </div>
    )
  if (!maySign) return <p className="soft">{names[part.part]} can sign off now.</p>
  return (
    <div className="stack">
      <p className="soft">{part.statement}</p>
      <Button fullWidth loading={sign.isPending} onClick={() => sign.mutate({ part: part.part, facts: part.facts ?? null })}>
        Sign off as {names[part.part].toLowerCase()}
      </Button>
    </div>
  )
}

function Reopening({ swap, part, close }: { swap: string; part: Part; close: () => void }) {
  const reopening = useReopening(swap)
  const [reason, setReason] = useState('')
  return (
    <FormDialog
      title="Open what was signed again"
      close={close}
      change={reopening}
      send={() => reopening.mutate({ part: part.part, reason }, { onSuccess: close })}
      action="Open again"
      ready={!!reason.trim()}
    >
      <p className="soft">The signature of {part.by} is void then, and each that rests on it. The ledger keeps both, with the reason.</p>
      <Textarea
        label="Why is it opened again?"
        value={reason}
        onChange={(e) => setReason(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={500}
        autosize
        minRows={2}
      />
    </FormDialog>
  )
}
