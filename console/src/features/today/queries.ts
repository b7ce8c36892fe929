import { queryOptions } from '@tanstack/react-query'
import { api, take } from '../../api/client'

/** @param day Left out: today by the clocks of the refresh. */
export const todayQuery = (refresh: string, day?: string) =>
  queryOptions({
    queryKey: day ? ['today', refresh, day] : ['today', refresh],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/today', { params: { path: { refresh }, query: { day } }, signal })),
  })

/** What needs somebody, without the rest of the day: for the bar of pages, which every page has. */
export const needsQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['needs', refresh],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/needs', { params: { path: { refresh } }, signal })),
  })
