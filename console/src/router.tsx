import type { QueryClient } from '@tanstack/react-query'
import { createRootRoute, createRoute, createRouter, Link, lazyRouteComponent } from '@tanstack/react-router'
import { RoundPage } from './features/round/RoundPage'
import { Empty, Failed } from './shared/States'
import { Shell } from './shell/Shell'

// Each page but the technician's first comes when it is asked for; those that a technician goes to next are fetched while nothing else happens.
const SwapPage = lazyRouteComponent(() => import('./features/swap/SwapPage'), 'SwapPage')
const TodayPage = lazyRouteComponent(() => import('./features/today/TodayPage'), 'TodayPage')
const SwapsPage = lazyRouteComponent(() => import('./features/swaps/SwapsPage'), 'SwapsPage')
const FollowUpsPage = lazyRouteComponent(() => import('./features/follow-ups/FollowUps'), 'FollowUpsPage')
const CapacityPage = lazyRouteComponent(() => import('./features/capacity/CapacityPage'), 'CapacityPage')
const ChecklistsPage = lazyRouteComponent(() => import('./features/checklists/ChecklistsPage'), 'ChecklistsPage')
const HandsPage = lazyRouteComponent(() => import('./features/hands/HandsPage'), 'HandsPage')
const OldComputersPage = lazyRouteComponent(() => import('./features/old-computers/OldComputersPage'), 'OldComputersPage')
const AccountsPage = lazyRouteComponent(() => import('./features/accounts/AccountsPage'), 'AccountsPage')
const LetInPage = lazyRouteComponent(() => import('./features/accounts/LetInPage'), 'LetInPage')
const OwnPage = lazyRouteComponent(() => import('./features/accounts/OwnPage'), 'OwnPage')
const HistoryPage = lazyRouteComponent(() => import('./features/plan/HistoryPage'), 'HistoryPage')
const OutlookPage = lazyRouteComponent(() => import('./features/plan/OutlookPage'), 'OutlookPage')
const PlanPage = lazyRouteComponent(() => import('./features/plan/PlanPage'), 'PlanPage')
const ReadyPage = lazyRouteComponent(() => import('./features/ready/ReadyPage'), 'ReadyPage')
const RefreshPage = lazyRouteComponent(() => import('./features/refresh/RefreshPage'), 'RefreshPage')
const NewRefreshPage = lazyRouteComponent(() => import('./features/refresh/NewRefreshPage'), 'NewRefreshPage')
const LedgerPage = lazyRouteComponent(() => import('./features/history/LedgerPage'), 'LedgerPage')
const RosterPage = lazyRouteComponent(() => import('./features/roster/RosterPage'), 'RosterPage')
const ReportPage = lazyRouteComponent(() => import('./features/parcel/ReportPage'), 'ReportPage')
const SheetsPage = lazyRouteComponent(() => import('./features/plan/SheetsPage'), 'SheetsPage')
const YardPage = lazyRouteComponent(() => import('./features/yard/YardPage'), 'YardPage')
const ToldPage = lazyRouteComponent(() => import('./features/told/ToldPage'), 'ToldPage')
const TextsPage = lazyRouteComponent(() => import('./features/told/TextsPage'), 'TextsPage')
const SnagsPage = lazyRouteComponent(() => import('./features/snags/SnagsPage'), 'SnagsPage')

const root = createRootRoute({
  component: Shell,
  errorComponent: ({ error, reset }) => <Failed error={error} retry={reset} />,
  notFoundComponent: () => (
    <Empty>
      <h1>There is no such page</h1>
      Go to <Link to="/">Today</Link>.
    </Empty>
  ),
})
const today = createRoute({
  getParentRoute: () => root,
  path: '/',
  validateSearch: (search: Record<string, unknown>): { day?: string } => ({ day: text(search.day) }),
  component: function Today() {
    return <TodayPage {...today.useSearch()} />
  },
})

export type SwapsSearch = { q?: string; site?: string; next?: string; sort?: string }
const text = (value: unknown) => (typeof value === 'string' && value ? value : typeof value === 'number' ? String(value) : undefined)
const swaps = createRoute({
  getParentRoute: () => root,
  path: '/swaps',
  validateSearch: (search: Record<string, unknown>): SwapsSearch => ({
    q: text(search.q),
    site: text(search.site),
    next: text(search.next),
    sort: text(search.sort),
  }),
  component: function Swaps() {
    return <SwapsPage search={swaps.useSearch()} />
  },
})
const swap = createRoute({
  getParentRoute: () => root,
  path: '/swaps/$swap',
  component: function Swap() {
    const { swap: id } = swap.useParams()
    return <SwapPage key={id} id={id} />
  },
})

const report = createRoute({
  getParentRoute: () => root,
  path: '/swaps/$swap/report',
  component: function Report() {
    const { swap: id } = report.useParams()
    return <ReportPage key={id} id={id} />
  },
})

const letIn = createRoute({
  getParentRoute: () => root,
  path: '/let-in/$code',
  component: function LetIn() {
    const { code } = letIn.useParams()
    return <LetInPage key={code} code={code} />
  },
})

export type SnagsSearch = { q?: string; site?: string; kind?: string; end?: string }
const snags = createRoute({
  getParentRoute: () => root,
  path: '/snags',
  validateSearch: (search: Record<string, unknown>): SnagsSearch => ({
    q: text(search.q),
    site: text(search.site),
    kind: text(search.kind),
    end: text(search.end),
  }),
  component: function Snags() {
    return <SnagsPage search={snags.useSearch()} />
  },
})

const plan = createRoute({
  getParentRoute: () => root,
  path: '/plan',
  validateSearch: (search: Record<string, unknown>): { day?: string; visit?: string } => ({
    day: text(search.day),
    visit: text(search.visit),
  }),
  component: function Plan() {
    return <PlanPage {...plan.useSearch()} />
  },
})
const outlook = createRoute({ getParentRoute: () => root, path: '/plan/outlook', component: OutlookPage })
const history = createRoute({ getParentRoute: () => root, path: '/plan/history', component: HistoryPage })
const sheets = createRoute({
  getParentRoute: () => root,
  path: '/plan/sheets',
  validateSearch: (search: Record<string, unknown>): { day?: string } => ({ day: text(search.day) }),
  component: function Sheets() {
    return <SheetsPage {...sheets.useSearch()} />
  },
})
const round = createRoute({
  getParentRoute: () => root,
  path: '/round',
  validateSearch: (search: Record<string, unknown>): { technician?: string } => ({ technician: text(search.technician) }),
  component: function Round() {
    return <RoundPage {...round.useSearch()} />
  },
})
const ready = createRoute({
  getParentRoute: () => root,
  path: '/ready',
  validateSearch: (search: Record<string, unknown>): { day?: string; wave?: string; site?: string } => ({
    day: text(search.day),
    wave: text(search.wave),
    site: text(search.site),
  }),
  component: function Ready() {
    return <ReadyPage {...ready.useSearch()} />
  },
})
const refresh = createRoute({ getParentRoute: () => root, path: '/refresh', component: RefreshPage })
const newRefresh = createRoute({ getParentRoute: () => root, path: '/refresh/new', component: NewRefreshPage })
export type LedgerSearch = { of?: 'service'; since?: string; until?: string; swap?: string; by?: string }
const ledger = createRoute({
  getParentRoute: () => root,
  path: '/history',
  validateSearch: (search: Record<string, unknown>): LedgerSearch => ({
    of: search.of === 'service' ? 'service' : undefined,
    since: text(search.since),
    until: text(search.until),
    swap: text(search.swap),
    by: text(search.by),
  }),
  component: function Ledger() {
    return <LedgerPage search={ledger.useSearch()} />
  },
})
const yard = createRoute({ getParentRoute: () => root, path: '/yard', component: YardPage })
const followUps = createRoute({ getParentRoute: () => root, path: '/follow-ups', component: FollowUpsPage })
const oldComputers = createRoute({ getParentRoute: () => root, path: '/old-computers', component: OldComputersPage })
const hands = createRoute({ getParentRoute: () => root, path: '/hands', component: HandsPage })
const accounts = createRoute({ getParentRoute: () => root, path: '/accounts', component: AccountsPage })
const own = createRoute({ getParentRoute: () => root, path: '/me', component: OwnPage })
const told = createRoute({ getParentRoute: () => root, path: '/told', component: ToldPage })
const texts = createRoute({ getParentRoute: () => root, path: '/told/texts', component: TextsPage })
const roster = createRoute({ getParentRoute: () => root, path: '/roster', component: RosterPage })
const capacity = createRoute({ getParentRoute: () => root, path: '/capacity', component: CapacityPage })
const checklists = createRoute({ getParentRoute: () => root, path: '/checklists', component: ChecklistsPage })

export const createAppRouter = (_: QueryClient) =>
  createRouter({
    routeTree: root.addChildren([
      today,
      letIn,
      ready,
      round,
      yard,
      refresh,
      newRefresh,
      ledger,
      followUps,
      told,
      texts,
      oldComputers,
      hands,
      accounts,
      own,
      swaps,
      swap,
      report,
      snags,
      plan,
      outlook,
      history,
      sheets,
      roster,
      capacity,
      checklists,
    ]),
    defaultPreload: false,
    scrollRestoration: true,
  })

/** Fetches what a technician goes to next. */
export const fetchAhead = () => {
  for (const page of [SwapPage, TodayPage]) void page.preload?.()
}

declare module '@tanstack/react-router' {
  interface Register {
    router: ReturnType<typeof createAppRouter>
  }
}
