import { Button, Modal } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { Sign } from '../../shared/Sign'
import { Coming, Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { useLeads } from '../session/queries'
import { AddTechnician } from './AddTechnician'
import { DepotDialog } from './DepotDialog'
import { parts } from './parts'
import { type Part, setUpQuery, useChangeRefresh } from './queries'
import { RefreshForm } from './RefreshForm'
import { SettingsCard } from './SettingsCard'

const signs = { there: 'done', wants: 'wants', open: 'ahead' } as const

/** What of the refresh is there and what is missing: leads through at first, and stays as the list of what is not ready. */
export function RefreshPage() {
  const refresh = useRefresh()
  const setUp = useQuery(setUpQuery(refresh.key))
  const leads = useLeads()
  const navigate = useNavigate()
  const [open, setOpen] = useState<'days' | 'depot' | null>(null)
  if (setUp.isPending) return <Coming rows={9} />
  if (setUp.isError) return <Failed error={setUp.error} retry={() => setUp.refetch()} />
  const { parts: all, unplannable } = setUp.data
  const there = all.filter((p) => p.state === 'there').length
  const hasPlan = all.some((p) => p.key === 'plan' && p.state === 'there')
  const act = (part: Part) => {
    const to = parts[part.key]?.to
    if (part.key === 'days' || part.key === 'depot') setOpen(part.key)
    else if (to) void navigate({ href: to })
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>{refresh.name}</h1>
          <p className="soft">
            <strong>
              {there} of {all.length} are there.
            </strong>{' '}
            {there === all.length
              ? ''
              : hasPlan
                ? 'What is not can be added at any time.'
                : 'A first plan needs people and one technician; the rest has a default.'}{' '}
            {hasPlan ? '' : 'Leave this page whenever you like.'}
          </p>
        </div>
      </header>
      <section className="card" aria-label="What is there and what is missing">
        <ul className="rows set-up">
          {all.map((part) => (
            <PartRow key={part.key} part={part} leads={leads} act={() => act(part)}>
              {part.key === 'technicians' && leads && part.state === 'wants' && <AddTechnician refresh={refresh.key} />}
            </PartRow>
          ))}
        </ul>
      </section>
      {leads && !hasPlan && (
        <p className="first-plan">
          <Button disabled={unplannable !== null} title={unplannable ?? undefined} onClick={() => navigate({ to: '/plan' })}>
            Make a first plan
          </Button>
          {unplannable && <span className="soft">{unplannable}</span>}
        </p>
      )}
      <SettingsCard refresh={refresh} leads={leads} />
      {open === 'days' && <DaysDialog close={() => setOpen(null)} />}
      {open === 'depot' && <DepotDialog refresh={refresh.key} close={() => setOpen(null)} />}
    </>
  )
}

function PartRow({ part, leads, act, children }: { part: Part; leads: boolean; act: () => void; children: React.ReactNode }) {
  const about = parts[part.key]
  if (!about) return null
  return (
    <li className={`part-row ${part.state === 'wants' ? 'next' : ''}`}>
      <Sign sign={signs[part.state as keyof typeof signs] ?? 'ahead'} />
      <div>
        <strong>{about.name}</strong>
        {part.state !== 'there' && <p className="soft">{about.why}</p>}
      </div>
      <div className="part-words">
        <p>{part.words}</p>
        {children}
      </div>
      {leads && (
        <Button size="compact-sm" variant="default" onClick={act} aria-label={`${about.action} ${about.name}`}>
          {about.action}
        </Button>
      )}
    </li>
  )
}

function DaysDialog({ close }: { close: () => void }) {
  const refresh = useRefresh()
  const setUp = useQuery(setUpQuery(refresh.key))
  const change = useChangeRefresh(refresh.key)
  const isPlanned = setUp.data?.parts.some((p) => p.key === 'plan' && p.state === 'there') ?? true
  return (
    <Modal opened onClose={close} title="Name, days, zone" closeOnClickOutside={false}>
      <RefreshForm
        values={{ name: refresh.name, zone: refresh.zone, starts: refresh.starts, days: refresh.days }}
        fixed={isPlanned}
        action="Keep it so"
        sending={change.isPending}
        error={change.error}
        send={(values) => change.mutate(values, { onSuccess: close })}
      />
    </Modal>
  )
}
