import { Button } from '@mantine/core'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import { dayOf } from '../../shared/wall'
import { useClock } from '../../shared/zone'
import { useDetour } from '../detours/queries'
import { CodeDialog } from '../hands/CodeDialog'
import { FormDialog } from '../parcel/FormDialog'
import { tell } from '../plan/queries'
import { HandoverDialog } from '../round/HandoverDialog'
import { swapQuery, useOrder } from '../swap/queries'
import { type Cure, useSayTold, type VisitReady } from './queries'

type Props = { visit: VisitReady; cure: Cure; first: boolean }

/** The one press that helps, or the way to where it is decided. */
export function CureButton({ visit, cure, first }: Props) {
  const [open, setOpen] = useState(false)
  const navigate = useNavigate()
  const queries = useQueryClient()
  const { zone } = useClock()
  const order = useOrder(visit.swap)
  const told = useSayTold(visit.swap)
  const close = () => {
    setOpen(false)
    void queries.invalidateQueries({ queryKey: ['ready'] })
  }
  const act = () => {
    switch (cure.action) {
      case 'told':
        return told.mutate(cure.of ?? 'told', { onError: tell })
      case 'survey':
        return order.mutate('survey', { onSettled: () => queries.invalidateQueries({ queryKey: ['ready'] }) })
      case 'trip':
        return order.mutate('first-trip', { onSettled: () => queries.invalidateQueries({ queryKey: ['ready'] }) })
      case 'another-time':
        return navigate({ to: '/plan', search: { day: visit.start ? dayOf(visit.start, zone) : undefined, visit: visit.swap } })
      case 'depot':
        return navigate({ href: '/capacity#Depots' })
      case 'decide':
        return navigate({ to: '/swaps/$swap', params: { swap: visit.swap } })
      default:
        return setOpen(true)
    }
  }
  return (
    <>
      <Button
        size="compact-sm"
        variant={first ? 'filled' : 'default'}
        loading={told.isPending || order.isPending}
        onClick={act}
        title={cure.command}
        aria-label={`${cure.words}: ${visit.name}`}
      >
        {cure.words}
      </Button>
      {open && cure.action === 'hand-over' && <HandOver swap={visit.swap} close={close} />}
      {open && cure.action === 'code' && <CodeDialog tag={cure.of ?? ''} close={close} />}
      {open && cure.action === 'give' && <Give visit={visit} tag={cure.of ?? ''} close={close} />}
    </>
  )
}

function HandOver({ swap, close }: { swap: string; close: () => void }) {
  const seen = useQuery(swapQuery(swap))
  return seen.data ? <HandoverDialog seen={seen.data} close={close} /> : null
}

/** A spare in place of the new computer: what follows is shown before anything is changed. */
function Give({ visit, tag, close }: { visit: VisitReady; tag: string; close: () => void }) {
  const detour = useDetour(visit.swap)
  const looked = detour.data
  const send = () =>
    detour.mutate(
      {
        kind: 'wrongComputer',
        dryRun: !looked,
        reason: null,
        minutes: null,
        tag,
        exchange: null,
        soonest: null,
        receiver: null,
      },
      { onSuccess: (taken) => (taken.done ? close() : undefined) },
    )
  return (
    <FormDialog
      title={`Give ${tag} to ${visit.name}`}
      close={close}
      change={detour}
      send={send}
      action={looked ? 'Give it' : 'See what follows'}
    >
      <p className="soft">
        The spare takes the place of the new computer that is not there; what was prepared on that one is prepared anew.
      </p>
      {looked && (
        <ul className="rows" aria-label="What follows">
          {[looked.words, ...looked.lines].map((words) => (
            <li key={words} className="plain">
              {words}
            </li>
          ))}
        </ul>
      )}
    </FormDialog>
  )
}
