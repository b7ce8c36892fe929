import { Button, Checkbox, NativeSelect } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { useClock } from '../../shared/zone'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery } from '../session/queries'
import { LinkDialog } from './LinkDialog'
import { moments } from './moments'
import { type Told, toldQuery, useAgain, useTelling } from './queries'

const which = {
  all: { words: 'Everybody', shows: () => true },
  unopened: { words: 'Who has not looked', shows: (p: Told) => p.openedAt === null },
  unready: { words: 'Who is not ready', shows: (p: Told) => !p.isReady && p.acceptedAt === null },
  trouble: { words: 'Whom mail does not reach', shows: (p: Told) => p.mail === null || p.trouble !== null || !!p.next?.why },
  next: { words: 'Who hears something next', shows: (p: Told) => !!p.next?.due },
} as const
type Which = keyof typeof which

const signOf = (p: Told) =>
  p.next?.why
    ? 'stopped'
    : p.mail === null && !p.toldAt
      ? 'stopped'
      : p.trouble
        ? 'wants'
        : p.isReady || p.acceptedAt
          ? 'done'
          : p.openedAt
            ? 'moving'
            : 'ahead'

/** Who was told what and when, who has not looked, who has not acted; and the word to those once more. */
export function ToldPage() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const told = useQuery(toldQuery(refresh.key))
  const telling = useTelling(refresh.key)
  const again = useAgain(refresh.key)
  const [shown, setShown] = useState<Which>('all')
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [link, setLink] = useState<Told | null>(null)
  const [ending, setEnding] = useState(false)
  if (told.isPending) return <Coming rows={8} />
  if (told.isError) return <Failed error={told.error} retry={() => told.refetch()} />
  const { since, canSend, people } = told.data
  const leads = me.data?.role === 'coordinator'
  const works = leads || me.data?.role === 'technician'
  const rows = people.filter(which[shown].shows)
  const picked = rows.filter((p) => chosen.has(p.swap) && p.last)
  const looked = people.filter((p) => p.openedAt).length
  const ready = people.filter((p) => p.isReady || p.acceptedAt).length
  const choose = (swaps: string[], on: boolean) => {
    const next = new Set(chosen)
    for (const swap of swaps) on ? next.add(swap) : next.delete(swap)
    setChosen(next)
  }
  // Each hears once more what they heard last; who has it is chosen no longer, so that nobody has it twice where the next one fails.
  const sendAgain = async () => {
    const left = new Set(chosen)
    for (const moment of new Set(picked.map((p) => p.last?.moment ?? ''))) {
      const swaps = picked.filter((p) => p.last?.moment === moment).map((p) => p.swap)
      const went = await again.mutateAsync({ moment, swaps }).catch(() => null)
      if (!went) return
      for (const swap of swaps) left.delete(swap)
      setChosen(new Set(left))
    }
  }
  return (
    <>
      <header className="head">
        <div>
          <h1>Told</h1>
          <p className="soft">
            {since ? (
              <>
                <strong>
                  {looked} of {people.length} have looked at their page, {ready} {ready === 1 ? 'is' : 'are'} ready
                </strong>
                . They are told by mail, by day, while their site is open.
              </>
            ) : canSend ? (
              'Nobody is told by mail yet.'
            ) : (
              'The service has no mail server: people are told by word of mouth, or with a link that you make here.'
            )}
          </p>
        </div>
        <div className="actions">
          <NativeSelect
            aria-label="Whom to show"
            data={Object.entries(which).map(([value, { words }]) => ({ value, label: words }))}
            value={shown}
            onChange={(e) => setShown(e.currentTarget.value as Which)}
          />
          <To to="/told/texts">Texts</To>
          {leads && canSend && (
            <Button
              variant={since ? 'default' : 'filled'}
              loading={telling.isPending}
              onClick={() => (since ? setEnding(true) : telling.mutate(true))}
            >
              {since ? 'Tell nobody any more…' : 'Tell people from now on'}
            </Button>
          )}
        </div>
      </header>
      {(telling.error ?? again.error) && (
        <p role="alert" className="problem">
          <span aria-hidden="true">■</span> {(telling.error ?? again.error)?.message}
        </p>
      )}
      {again.data && again.data.skipped.length > 0 && (
        <p role="status" className="soft">
          {again.data.skipped.join(' ')}
        </p>
      )}
      <section className="card" aria-label="People">
        {leads && since && (
          <div className="card-head">
            <Checkbox
              label="Choose all that are shown"
              checked={rows.length > 0 && rows.every((p) => chosen.has(p.swap))}
              onChange={(e) =>
                choose(
                  rows.map((p) => p.swap),
                  e.currentTarget.checked,
                )
              }
            />
            <Button size="compact-sm" variant="default" disabled={picked.length === 0} loading={again.isPending} onClick={sendAgain}>
              {picked.length === 0 ? 'Send again' : `Send again to ${picked.length}`}
            </Button>
          </div>
        )}
        {rows.length === 0 ? (
          <Empty>{people.length === 0 ? 'Nobody is in this refresh yet. Take a roster into it.' : 'Nobody is left here.'}</Empty>
        ) : (
          <ul className="rows">
            {rows.map((p) => (
              <Row
                key={p.swap}
                p={p}
                choice={leads && since ? { on: chosen.has(p.swap), set: (on) => choose([p.swap], on) } : null}
                link={works ? () => setLink(p) : null}
              />
            ))}
          </ul>
        )}
      </section>
      {ending && (
        <FormDialog
          title="Tell nobody any more?"
          close={() => setEnding(false)}
          change={telling}
          send={() => telling.mutate(false, { onSuccess: () => setEnding(false) })}
          action="Tell nobody any more"
          keep="Go on telling"
        >
          <p>Nobody hears anything by mail then: no times, no changes, no day before. What is due meanwhile is not told late.</p>
        </FormDialog>
      )}
      {link && <LinkDialog person={link} close={() => setLink(null)} />}
    </>
  )
}

/** What comes next for somebody, and what will never come, with why. */
function Next({ p }: { p: Told }) {
  const clock = useClock()
  if (p.trouble) return <span className="sign-wants">{p.trouble}</span>
  if (p.next?.why) return <span className="sign-stopped">hears no time by mail: {p.next.why}</span>
  if (!p.next?.due) return <span className="soft">{p.mail === null ? 'no mail address' : ''}</span>
  return (
    <span className="soft">
      next: {moments[p.next.moment ?? ''] ?? p.next.moment}, {clock.full(p.next.due)}
    </span>
  )
}

type RowProps = { p: Told; choice: { on: boolean; set: (on: boolean) => void } | null; link: (() => void) | null }

function Row({ p, choice, link }: RowProps) {
  const clock = useClock()
  return (
    <li className="told-row">
      {choice ? (
        <Checkbox aria-label={`Choose ${p.name}`} checked={choice.on} onChange={(e) => choice.set(e.currentTarget.checked)} />
      ) : (
        <span />
      )}
      <span>
        <Sign sign={signOf(p)} /> <To to={`/swaps/${p.swap}`}>{p.name}</To> <span className="soft">{p.site}</span>
      </span>
      <span>
        {p.last ? (
          <>
            {moments[p.last.moment] ?? p.last.moment} <span className="soft">{p.last.sentAt ? clock.short(p.last.sentAt) : ''}</span>
          </>
        ) : (
          <span className="soft">{p.toldAt ? `by word of mouth, ${clock.short(p.toldAt)}` : 'nothing yet'}</span>
        )}
      </span>
      <span className="soft">
        {p.isReady ? 'is ready' : p.acceptedAt ? 'has accepted' : p.seenAt ? `looked ${clock.short(p.seenAt)}` : 'has not looked'}
        {p.mailOff ? ' · wants little mail' : ''}
      </span>
      <Next p={p} />
      {link ? (
        <Button size="compact-sm" variant="default" onClick={link} aria-label={`Make a link for ${p.name}`}>
          Link…
        </Button>
      ) : (
        <span />
      )}
    </li>
  )
}
