import { queryOptions } from '@tanstack/react-query'
import { api, take } from '../../api/client'

export const yardQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['yard', refresh],
    refetchInterval: 30_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/yard', { params: { path: { refresh } }, signal })),
  })

/** When all may be over, by simulation: asked for rarely, as it takes the service a while; without a plan there is none. */
export const forecastQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['yard', refresh, 'forecast'],
    retry: false,
    staleTime: 10 * 60_000,
    queryFn: ({ signal }) =>
      take(
        api.POST('/api/refreshes/{refresh}/plan/outlook', {
          params: { path: { refresh } },
          body: { runs: 400, seed: 1, lengthSpread: 0.25, noShow: 0.04, failedTrip: 0.03, overtimeMinutes: 30 },
          signal,
        }),
      ),
  })
