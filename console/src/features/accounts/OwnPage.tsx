import { Button, PasswordInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { meQuery } from '../session/queries'
import { FeedsCard } from './FeedsCard'
import { PasskeysCard } from './PasskeysCard'
import { type Session, sessionsQuery, useChangePassword, useEndSession } from './queries'

/** One's own account: where it is signed in, and its password. */
export function OwnPage() {
  const me = useQuery(meQuery)
  const list = useQuery(sessionsQuery)
  const end = useEndSession()
  const others = list.data?.filter((s) => !s.isThis).length ?? 0
  return (
    <>
      <header className="head">
        <div>
          <h1>{me.data?.shown}</h1>
          <p className="soft">
            Signed in as {me.data?.name}, {me.data?.role}
            {me.data?.sites.length ? ` for ${me.data.sites.join(', ')}` : ''}
            {me.data?.refreshes.length ? `, in ${me.data.refreshes.join(', ')} only` : ''}
          </p>
        </div>
      </header>
      <section className="card" aria-label="Where you are signed in">
        <div className="card-head">
          <h2>Where you are signed in</h2>
          {others > 0 && (
            <Button size="compact-sm" variant="default" loading={end.isPending} onClick={() => end.mutate('others')}>
              Sign out everywhere else
            </Button>
          )}
        </div>
        {list.isPending ? (
          <Coming rows={3} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : (
          <ul className="rows">
            {list.data.map((s) => (
              <Place key={s.id} session={s} end={() => end.mutate(s.id)} />
            ))}
          </ul>
        )}
        {end.isError && <Failed error={end.error} />}
      </section>
      <PasskeysCard />
      {me.data && !me.data.isOfOrganisation && <PasswordCard />}
      <FeedsCard />
    </>
  )
}

function Place({ session: s, end }: { session: Session; end: () => void }) {
  const clock = useClock()
  return (
    <li className="place-row">
      <span>
        {s.label}
        {s.isThis && <strong> · this one</strong>}
      </span>
      <span className="soft">
        {s.madeAt ? `since ${clock.full(s.madeAt)}` : ''}
        {s.seenAt ? ` · last used ${clock.full(s.seenAt)}` : ''} · ends {clock.full(s.ends)}
      </span>
      {!s.isThis && (
        <Button size="compact-sm" variant="default" onClick={end} aria-label={`Sign out ${s.label}`}>
          Sign out
        </Button>
      )}
    </li>
  )
}

function PasswordCard() {
  const change = useChangePassword()
  const [now, setNow] = useState('')
  const [wanted, setWanted] = useState('')
  const send = (event: FormEvent) => {
    event.preventDefault()
    change.mutate(
      { now, wanted },
      {
        onSuccess: () => {
          setNow('')
          setWanted('')
        },
      },
    )
  }
  return (
    <section className="card" aria-label="Password">
      <h2>Password</h2>
      <form onSubmit={send} className="stack narrow">
        <PasswordInput
          label="The one of now"
          value={now}
          onChange={(e) => setNow(e.currentTarget.value)}
          autoComplete="current-password"
          required
          withAsterisk={false}
        />
        <PasswordInput
          label="The new one"
          description="At least 12 characters; several words that do not belong together are easy to remember."
          value={wanted}
          onChange={(e) => setWanted(e.currentTarget.value)}
          autoComplete="new-password"
          required
          withAsterisk={false}
        />
        {change.isError && <Failed error={change.error} />}
        {change.isSuccess && <p role="status">The new password counts. You are signed out everywhere but here.</p>}
        <div className="actions">
          <Button type="submit" loading={change.isPending} disabled={!now || !wanted}>
            Change it
          </Button>
        </div>
      </form>
    </section>
  )
}
