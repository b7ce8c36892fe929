import { Button } from '@mantine/core'
import { Link } from '@tanstack/react-router'
import { outbox, useOutbox, type Waiting } from '../shared/outbox'
import { useClock } from '../shared/zone'

/** What waits to be sent, and what somebody must decide about. */
export function Outbox({ account, live }: { account: string; live: boolean }) {
  const waiting = useOutbox().filter((w) => w.account === account)
  const going = waiting.filter((w) => !w.stuck)
  const stuck = waiting.filter((w) => w.stuck)
  return (
    <>
      {(!live || going.length > 0) && (
        <p className="offline" role="status">
          <span aria-hidden="true">○</span>{' '}
          {live
            ? `Sending ${steps(going.length)}…`
            : going.length > 0
              ? `No network. ${steps(going.length)} on this device ${going.length === 1 ? 'waits' : 'wait'} to be sent; go on working.`
              : 'No live connection. What you see may be old; it is asked for again by itself.'}
        </p>
      )}
      {stuck.map((w) => (
        <Stuck key={w.id} waiting={w} />
      ))}
    </>
  )
}

const steps = (count: number) => (count === 1 ? '1 step' : `${count} steps`)

const claims: Record<string, string> = {
  ticked: 'done',
  answered: 'done',
  scanned: 'scanned',
  started: 'started',
  ran: 'run once more',
  'not-applicable': 'does not apply',
  reopened: 'opened again',
}

function Stuck({ waiting }: { waiting: Waiting }) {
  const clock = useClock()
  const { change, stuck } = waiting
  return (
    <div className="conflict" role="group" aria-label={`Not sent: ${waiting.step.title}`}>
      <p>
        <strong className="sign-wants">
          <span aria-hidden="true">▲</span> {waiting.step.title}
        </strong>{' '}
        of{' '}
        <Link to="/swaps/$swap" params={{ swap: waiting.swap }}>
          {waiting.person}
        </Link>
        : {stuck?.words}
        <br />
        <span className="soft">
          Yours, {clock.full(new Date(waiting.doneAt).toISOString())}:{' '}
          {change.value ?? change.reason ?? claims[change.claim] ?? change.claim}
          {stuck?.theirs ? ` · Theirs: ${stuck.theirs}` : ''}
        </span>
      </p>
      <div className="actions">
        <Button size="compact-sm" variant="default" onClick={() => void outbox.drop(waiting.id)}>
          {stuck?.theirs ? 'Keep theirs' : 'Let mine go'}
        </Button>
        {stuck?.theirs && (
          <Button size="compact-sm" onClick={() => void outbox.put({ ...waiting, stuck: null, over: true })}>
            Put mine over it
          </Button>
        )}
      </div>
    </div>
  )
}
