import { useQuery } from '@tanstack/react-query'
import { useRouterState } from '@tanstack/react-router'
import { useEffect, useState } from 'react'
import { needsQuery, todayQuery } from '../features/today/queries'
import { PageTo } from '../shared/To'

type Page = {
  to: string
  name: string
  exact?: boolean /** At the thumb on a phone. */
  thumb?: boolean /** Who sees it; left out: everybody. */
  who?: 'oversees' | 'leads'
}

/** The pages by when one needs them. */
const groups: { name: string; pages: Page[] }[] = [
  {
    name: 'Now',
    pages: [
      { to: '/', name: 'Today', exact: true, thumb: true },
      { to: '/ready', name: 'Ready', thumb: true },
      { to: '/round', name: 'Round', thumb: true },
      { to: '/yard', name: 'Yard' },
    ],
  },
  {
    name: 'Before',
    pages: [
      { to: '/plan', name: 'Plan' },
      { to: '/swaps', name: 'Swaps', thumb: true },
      { to: '/told', name: 'Told' },
      { to: '/roster', name: 'Roster' },
    ],
  },
  {
    name: 'After',
    pages: [
      { to: '/snags', name: 'Snags' },
      { to: '/follow-ups', name: 'Follow-ups' },
      { to: '/old-computers', name: 'Old computers' },
      { to: '/history', name: 'History', who: 'oversees' },
    ],
  },
  {
    name: 'Set up',
    pages: [
      { to: '/refresh', name: 'Refresh', who: 'oversees' },
      { to: '/capacity', name: 'Capacity' },
      { to: '/checklists', name: 'Checklists' },
      { to: '/hands', name: 'Hands' },
      { to: '/accounts', name: 'Accounts', who: 'leads' },
    ],
  },
]

/** The bar of pages; on a phone four of them lie at the thumb, and the others behind one press. */
export function Pages({ refresh, oversees, leads }: { refresh: string; oversees: boolean; leads: boolean }) {
  const sees = (page: Page) => !page.who || (page.who === 'leads' ? leads : oversees)
  return (
    <>
      {groups.map((group) => (
        <section key={group.name} className="page-group" aria-label={group.name}>
          <p className="group-name" aria-hidden="true">
            {group.name}
          </p>
          <ul>
            {group.pages.filter(sees).map((page) => (
              <li key={page.to} className={page.thumb ? 'thumb' : undefined}>
                <PageTo to={page.to} exact={page.exact}>
                  {page.name}
                  {page.to === '/' && <Waiting refresh={refresh} />}
                </PageTo>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </>
  )
}

/** How many need somebody. */
function Waiting({ refresh }: { refresh: string }) {
  // The day's page has read them with the day.
  const atToday = useRouterState({ select: (state) => state.location.pathname === '/' })
  const day = useQuery({ ...todayQuery(refresh), enabled: atToday, select: (seen) => seen.needs.length })
  const needs = useQuery({ ...needsQuery(refresh), enabled: !atToday, select: (seen) => seen.length })
  const waiting = atToday ? (day.data ?? needs.data) : (needs.data ?? day.data)
  return waiting ? (
    <span className="badge">
      {waiting}
      <span className="unseen"> need somebody</span>
    </span>
  ) : null
}

/** Whether the bar shows all pages on a phone; it closes when one is gone to. */
export function useAllPages() {
  const [all, setAll] = useState(false)
  const at = useRouterState({ select: (state) => state.location.href })
  // biome-ignore lint/correctness/useExhaustiveDependencies: another page is what closes it
  useEffect(() => setAll(false), [at])
  return [all, setAll] as const
}
