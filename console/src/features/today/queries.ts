import { queryOptions } from '@tanstack/react-query'
import { api, take } from '../../api/client'

export const todayQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['today', refresh],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/today', { params: { path: { refresh } }, signal })),
  })
