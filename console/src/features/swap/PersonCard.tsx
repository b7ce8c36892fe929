import { Button, Textarea } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { SwapSeen } from '../../api/client'
import { Failed } from '../../shared/States'
import { dayText } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { FormDialog } from '../parcel/FormDialog'
import { keptQuery, linksQuery, useErasure, useWithdrawLinks } from './person'

const kinds: Record<string, string> = {
  person: 'who they are',
  appointments: 'appointments',
  computers: 'computers',
  inventory: 'what was found on the old computer',
  folders: 'folders',
  snags: 'snags',
  steps: 'steps',
  photos: 'photos',
  'sign-offs': 'signatures',
  words: 'what they said',
  notices: 'mails',
  links: 'personal links',
  history: 'entries of the history',
}

const states: Record<string, string> = {
  waits: 'not opened yet',
  open: 'opened',
  expired: 'over',
  withdrawn: 'withdrawn',
}

/** The personal links of whoever a swap is for, and what is kept about them: to be given to them, or erased. For coordinators. */
export function PersonCard({ seen }: { seen: SwapSeen }) {
  const [open, setOpen] = useState(false)
  return (
    <section className="card" aria-labelledby="person-kept">
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary>
          <h2 id="person-kept" className="in-summary">
            Links, and what is kept
          </h2>
        </summary>
        {open && (
          <>
            <Links swap={seen.swap.id} />
            <Kept swap={seen.swap.id} name={seen.swap.name} />
          </>
        )}
      </details>
    </section>
  )
}

function Links({ swap }: { swap: string }) {
  const links = useQuery(linksQuery(swap))
  const withdraw = useWithdrawLinks(swap)
  const clock = useClock()
  if (links.isPending) return null
  if (links.isError) return <Failed error={links.error} retry={() => links.refetch()} />
  const live = links.data.filter((l) => l.state === 'waits' || l.state === 'open')
  return (
    <>
      <h3>Personal links</h3>
      {links.data.length === 0 && <p className="soft">None was made. On the page Told one is sent, or made to hand over.</p>}
      <ul className="rows">
        {links.data.map((l) => (
          <li key={l.madeAt} className="plain">
            {states[l.state] ?? l.state}
            <span className="soft">
              {' '}
              · made {clock.full(l.madeAt)} by {l.madeBy}
              {l.openedAt && `, opened ${clock.full(l.openedAt)}`}
              {l.seenAt && `, last looked at ${clock.full(l.seenAt)}`}
            </span>
          </li>
        ))}
      </ul>
      {live.length > 0 && (
        <div className="actions">
          <Button size="compact-sm" variant="default" loading={withdraw.isPending} onClick={() => withdraw.mutate()}>
            Withdraw {live.length === 1 ? 'it' : `all ${live.length}`}
          </Button>
        </div>
      )}
      {withdraw.isError && <Failed error={withdraw.error} />}
    </>
  )
}

function Kept({ swap, name }: { swap: string; name: string }) {
  const kept = useQuery(keptQuery(swap))
  const [erases, setErases] = useState(false)
  const clock = useClock()
  if (kept.isPending) return null
  if (kept.isError) return <Failed error={kept.error} retry={() => kept.refetch()} />
  const k = kept.data
  return (
    <>
      <h3>What is kept</h3>
      {k.erasedAt ? (
        <p className="soft">Erased {clock.full(k.erasedAt)}. The history stays whole, without what was said of them.</p>
      ) : (
        <>
          <p>
            {k.parts.map((part, i) => (
              <span key={part.kind}>
                {i > 0 && ' · '}
                {kinds[part.kind] ?? part.kind} <span className="figures">{part.count}</span>
              </span>
            ))}
          </p>
          <p className="soft">
            {k.erasesOn ? `Erased by itself on ${dayText(k.erasesOn)}.` : 'Kept until somebody asks that it be erased.'}
            {k.missing.length > 0 && ` It cannot be erased yet: ${k.missing.join(' ')}`}
          </p>
          <div className="actions">
            <Button
              size="compact-sm"
              variant="default"
              component="a"
              href={`/api/swaps/${encodeURIComponent(swap)}/person/export`}
              download
            >
              All of it as a ZIP
            </Button>
            <Button
              size="compact-sm"
              variant="default"
              disabled={k.missing.length > 0}
              title={k.missing.length > 0 ? k.missing.join(' ') : undefined}
              onClick={() => setErases(true)}
            >
              Erase it…
            </Button>
          </div>
        </>
      )}
      {erases && <EraseDialog swap={swap} name={name} close={() => setErases(false)} />}
    </>
  )
}

function EraseDialog({ swap, name, close }: { swap: string; name: string; close: () => void }) {
  const erase = useErasure(swap)
  const [reason, setReason] = useState('')
  return (
    <FormDialog
      title={`Erase what is kept about ${name}`}
      close={close}
      change={erase}
      send={() => erase.mutate(reason.trim(), { onSuccess: close })}
      action="Erase it"
      color="red"
      ready={!!reason.trim()}
    >
      <p>It does not come back. The history stays whole: that something was done stays in it, and not of whom or with which words.</p>
      <Textarea
        label="Why?"
        description="Without names: it stays."
        value={reason}
        onChange={(e) => setReason(e.currentTarget.value)}
        data-autofocus
        required
        maxLength={300}
        autosize
        minRows={2}
      />
    </FormDialog>
  )
}
