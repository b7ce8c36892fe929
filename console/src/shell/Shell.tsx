import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Outlet, useNavigate, useRouterState } from '@tanstack/react-router'
import { useEffect, useRef, useState } from 'react'
import type { Me } from '../api/client'
import { meQuery, refreshesQuery } from '../features/session/queries'
import { SignInPage } from '../features/session/SignInPage'
import { needsQuery, todayQuery } from '../features/today/queries'
import { leaving } from '../shared/leaving'
import { useLive } from '../shared/live'
import { Coming, Empty, Failed } from '../shared/States'
import { useSending } from '../shared/sending'
import { PageTo } from '../shared/To'
import { wallTime } from '../shared/wall'
import { ZoneProvider } from '../shared/zone'
import { Mark } from './Mark'
import { Outbox } from './Outbox'
import { RefreshProvider } from './refresh'

export function Shell() {
  const me = useQuery(meQuery)
  if (me.isPending) return <Coming />
  if (me.isError) return <Failed error={me.error} retry={() => me.refetch()} />
  return me.data ? <SignedIn me={me.data} /> : <SignInPage />
}

function SignedIn({ me: { name: account, shown: name, role, refreshes: reaches } }: { me: Me }) {
  const refreshes = useQuery({ ...refreshesQuery, enabled: role !== 'person' })
  const refresh = refreshes.data?.[0]
  const live = useLive(refresh?.key)
  // A program is let in by anybody, also before there is anything else.
  const isAlone = useRouterState({ select: (state) => state.location.pathname.startsWith('/let-in/') })
  useSending(account, name)
  const queries = useQueryClient()
  const signOut = async () => {
    // The next person at this device must not find what this one read, whether the service hears of it now or later.
    await leaving.begin()
    queries.setQueryData(meQuery.queryKey, null)
    queries.removeQueries({ predicate: (query) => query.queryKey[0] !== meQuery.queryKey[0] })
  }
  return (
    <ZoneProvider value={refresh?.zone ?? 'UTC'}>
      <RefreshProvider value={refresh ?? null}>
        <a href="#page" className="skip">
          To the page
        </a>
        <div className="shell">
          <nav aria-label="Pages">
            <Mark />
            {refresh && <Pages refresh={refresh.key} leads={role === 'coordinator' && !reaches.length} />}
            <div className="who">
              {refresh ? (
                <PageTo to="/me" aria-label={`${name}: your account`}>
                  <span className="whole-name">{name}</span>
                  <span className="short-name">You</span>
                </PageTo>
              ) : (
                <span>{name}</span>
              )}
              <span className="soft">{role}</span>
              <button type="button" onClick={signOut}>
                Sign out
              </button>
            </div>
          </nav>
          <main id="page">
            <Outbox account={account} live={live} />
            {refresh || isAlone ? (
              <>
                <Outlet />
                {refresh && <ZoneNamed zone={refresh.zone} />}
              </>
            ) : role === 'person' ? (
              <Empty>Your own page comes with the personal link that you are sent. There is nothing for you to do here.</Empty>
            ) : refreshes.isPending ? (
              <Coming />
            ) : refreshes.isError ? (
              <Failed error={refreshes.error} retry={() => refreshes.refetch()} />
            ) : (
              <Empty>
                There is no refresh yet. Make one with <code>yardline refresh make</code>, then take a roster into it.
              </Empty>
            )}
          </main>
        </div>
      </RefreshProvider>
    </ZoneProvider>
  )
}

/** Whose clocks all times of the page are from; said louder where the device shows other ones. */
function ZoneNamed({ zone }: { zone: string }) {
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone
  const now = Date.now()
  return (
    <p className="soft zone-named">
      Times: {zone}
      {wallTime(now, own) !== wallTime(now, zone) && (
        <strong>
          {' '}
          ({wallTime(now, zone)} there, {wallTime(now, own)} at this device)
        </strong>
      )}
    </p>
  )
}

function Pages({ refresh, leads }: { refresh: string; leads: boolean }) {
  // The day's page has read them with the day.
  const atToday = useRouterState({ select: (state) => state.location.pathname === '/' })
  const day = useQuery({ ...todayQuery(refresh), enabled: atToday, select: (seen) => seen.needs.length })
  const needs = useQuery({ ...needsQuery(refresh), enabled: !atToday, select: (seen) => seen.length })
  const waiting = atToday ? (day.data ?? needs.data) : (needs.data ?? day.data)
  return (
    <ul>
      <li>
        <PageTo to="/" exact>
          Today
          {waiting ? (
            <span className="badge">
              {waiting}
              <span className="unseen"> need somebody</span>
            </span>
          ) : null}
        </PageTo>
      </li>
      <li>
        <PageTo to="/round">Round</PageTo>
      </li>
      <li>
        <PageTo to="/yard">Yard</PageTo>
      </li>
      <li>
        <PageTo to="/plan">Plan</PageTo>
      </li>
      <li>
        <PageTo to="/swaps">Swaps</PageTo>
      </li>
      <li>
        <PageTo to="/snags">Snags</PageTo>
      </li>
      <li>
        <PageTo to="/follow-ups">Follow-ups</PageTo>
      </li>
      <li>
        <PageTo to="/told">Told</PageTo>
      </li>
      <li>
        <PageTo to="/old-computers">Old computers</PageTo>
      </li>
      <li>
        <PageTo to="/hands">Hands</PageTo>
      </li>
      <li>
        <PageTo to="/roster">Roster</PageTo>
      </li>
      <li>
        <PageTo to="/capacity">Capacity</PageTo>
      </li>
      <li>
        <PageTo to="/checklists">Checklists</PageTo>
      </li>
      {leads && (
        <li>
          <PageTo to="/accounts">Accounts</PageTo>
        </li>
      )}
    </ul>
  )
}

/** Finds any person, tag, room: '/' from anywhere. */
export function Find({ initial = '' }: { initial?: string }) {
  const [text, setText] = useState(initial)
  const box = useRef<HTMLInputElement>(null)
  const navigate = useNavigate()
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLElement && event.target.closest('input, textarea, select, [contenteditable]')
      if (event.key !== '/' || typing || event.ctrlKey || event.metaKey) return
      event.preventDefault()
      box.current?.focus()
      box.current?.select()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  return (
    <form
      className="find"
      role="search"
      onSubmit={(event) => {
        event.preventDefault()
        navigate({ to: '/swaps', search: text ? { q: text } : {} })
      }}
    >
      <input
        ref={box}
        type="search"
        aria-label="Find a person, tag or room"
        placeholder="Find a person, tag, room"
        title="Press / to find"
        value={text}
        onChange={(e) => setText(e.currentTarget.value)}
      />
      <kbd aria-hidden="true">/</kbd>
    </form>
  )
}
