import { Button } from '@mantine/core'
import { useNavigate } from '@tanstack/react-router'
import { useState } from 'react'
import type { Need } from '../../api/client'
import { ageText } from '../../shared/amounts'
import { byCause, someOf } from '../../shared/causes'
import { Sign } from '../../shared/Sign'
import { Empty } from '../../shared/States'

/** So many of one cause are one line that opens. */
const many = 3

/** What needs somebody now: each with the one thing that helps. */
export function NeedsYou({ needs, now }: { needs: Need[]; now: string }) {
  const causes = byCause(needs, (n) => `${n.sign} ${n.words} ${n.action}`)
  return (
    <section className="card needs" aria-labelledby="needs-you">
      <div className="card-head">
        <h2 id="needs-you">Needs you now</h2>
        <span className="soft">{needs.length || ''}</span>
      </div>
      {needs.length === 0 ? (
        <Empty>
          <Sign sign="done" quiet /> Nothing waits for anybody.
        </Empty>
      ) : (
        <ul className="rows" tabIndex={0} aria-labelledby="needs-you">
          {causes.map((of) =>
            of.length >= many ? (
              <ManyNeeds key={`${of[0].sign} ${of[0].words}`} needs={of} now={now} />
            ) : (
              of.map((need) => <NeedRow key={`${need.swap || need.name} ${need.words}`} need={need} now={now} />)
            ),
          )}
        </ul>
      )}
    </section>
  )
}

function ManyNeeds({ needs, now }: { needs: [Need, ...Need[]]; now: string }) {
  const [open, setOpen] = useState(false)
  const [first] = needs
  return (
    <>
      <li className="need-row">
        <Sign sign={first.sign} />
        <div>
          <strong>{needs.length} of one cause</strong> <span className="soft">{open ? '' : someOf(needs.map((n) => n.name))}</span>
          <p className="soft">{first.words}</p>
        </div>
        <Button size="compact-sm" variant="default" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Close' : 'Show each'}
        </Button>
      </li>
      {open && needs.map((need) => <NeedRow key={need.swap || need.name} need={need} now={now} />)}
    </>
  )
}

function NeedRow({ need, now }: { need: Need; now: string }) {
  const navigate = useNavigate()
  return (
    <li className="need-row">
      <Sign sign={need.sign} />
      <div>
        <strong>{need.name}</strong> <span className="soft age">{ageText((Date.parse(now) - Date.parse(need.since)) / 1000)}</span>
        <p className="soft">{need.words}</p>
      </div>
      <Button
        size="compact-sm"
        variant={need.sign === 'stopped' ? 'filled' : 'default'}
        onClick={() =>
          need.swap
            ? navigate({ to: '/swaps/$swap', params: { swap: need.swap } })
            : navigate({ to: need.action === 'plan' ? '/plan' : '/capacity' })
        }
        aria-label={`${need.actionWords}: ${need.name}`}
      >
        {need.actionWords}
      </Button>
    </li>
  )
}
