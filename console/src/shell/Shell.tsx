import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Outlet, useNavigate, useRouterState } from '@tanstack/react-router'
import { lazy, Suspense, useEffect, useRef, useState } from 'react'
import type { Me, Refresh } from '../api/client'
import { meQuery, refreshesQuery } from '../features/session/queries'
import { SignInPage } from '../features/session/SignInPage'
import { leaving } from '../shared/leaving'
import { useLive } from '../shared/live'
import { Coming, Empty, Failed } from '../shared/States'
import { useSending } from '../shared/sending'
import { PageTo } from '../shared/To'
import { wallTime } from '../shared/wall'
import { ZoneProvider } from '../shared/zone'
import { Mark } from './Mark'
import { Outbox } from './Outbox'
import { Pages, useAllPages } from './Pages'
import { keepRefresh, lastRefresh, RefreshSwitch } from './RefreshSwitch'
import { RefreshProvider } from './refresh'

export function Shell() {
  const me = useQuery(meQuery)
  if (me.isPending) return <Coming />
  if (me.isError) return <Failed error={me.error} retry={() => me.refetch()} />
  return me.data ? <SignedIn me={me.data} /> : <SignInPage />
}

function SignedIn({ me: { name: account, shown: name, role, refreshes: reaches } }: { me: Me }) {
  const refreshes = useQuery({ ...refreshesQuery, enabled: role !== 'person' })
  const { refresh, choose } = useChosen(refreshes.data)
  const [all, setAll] = useAllPages()
  const leads = role === 'coordinator' && !reaches.length
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
          <nav aria-label="Pages" className={all ? 'all' : undefined}>
            <Mark />
            {refresh && (
              <>
                <RefreshSwitch refresh={refresh} all={refreshes.data ?? []} mayMake={leads} choose={choose} />
                <Pages refresh={refresh.key} oversees={role === 'coordinator' || role === 'auditor'} leads={leads} />
              </>
            )}
            <div className="who">
              {refresh ? (
                <PageTo to="/me" aria-label={`${name}: your account`}>
                  {name}
                </PageTo>
              ) : (
                <span>{name}</span>
              )}
              <span className="soft">{role}</span>
              <button type="button" onClick={signOut}>
                Sign out
              </button>
            </div>
            <button type="button" className="more-pages" aria-expanded={all} onClick={() => setAll(!all)}>
              {all ? 'Close' : 'More'}
            </button>
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
              <NoRefresh mayMake={leads} choose={choose} />
            )}
          </main>
        </div>
      </RefreshProvider>
    </ZoneProvider>
  )
}

/** The refresh that the pages show: that of the swap whose page is open, else the one that was chosen, else the first. */
function useChosen(all: Refresh[] | undefined) {
  const [chosen, setChosen] = useState(lastRefresh)
  const ofSwap = useRouterState({ select: (state) => /^\/swaps\/(.+)-\d+(\/|$)/.exec(state.location.pathname)?.[1] })
  const find = (key: string | null | undefined) => all?.find((r) => r.key === key)
  const choose = (key: string) => {
    keepRefresh(key)
    setChosen(key)
  }
  return { refresh: find(ofSwap) ?? find(chosen) ?? all?.[0], choose }
}

// Seen once in the life of a service: nobody else loads it.
const FirstPage = lazy(() => import('../features/refresh/FirstPage').then((page) => ({ default: page.FirstPage })))

/** Nothing is there yet: whoever may begins, in one form. */
function NoRefresh({ mayMake, choose }: { mayMake: boolean; choose: (key: string) => void }) {
  return mayMake ? (
    <Suspense fallback={<Coming />}>
      <FirstPage isFirst chosen={choose} />
    </Suspense>
  ) : (
    <Empty>There is no refresh for you yet. A coordinator makes one, or lets you into theirs.</Empty>
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
