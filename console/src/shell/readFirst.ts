import type { QueryClient } from '@tanstack/react-query'
import { roundQuery } from '../features/round/queries'
import { meQuery, refreshesQuery } from '../features/session/queries'
import { todayQuery } from '../features/today/queries'

/** Reads what the page at a path shows first, so that it can be drawn at once; what cannot be read, the page itself asks for again. */
export async function readFirst(queries: QueryClient, path: string): Promise<void> {
  // Side by side: every page wants both.
  const [me, refreshes] = await Promise.all([queries.fetchQuery(meQuery), queries.fetchQuery(refreshesQuery).catch(() => [])])
  const refresh = refreshes[0]?.key
  if (!me || !refresh) return
  if (path === '/') await queries.prefetchQuery(todayQuery(refresh))
  if (path === '/round' && me.role === 'technician') await queries.prefetchQuery(roundQuery(refresh, me.name))
}
