import { queryOptions } from '@tanstack/react-query'
import { api, take } from '../../api/client'

export const yardQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['yard', refresh],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/yard', { params: { path: { refresh } }, signal })),
  })
