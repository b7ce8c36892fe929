import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export const roundQuery = (refresh: string, technician: string) =>
  queryOptions({
    queryKey: ['round', refresh, technician],
    enabled: technician !== '',
    // Time alone changes what comes next.
    refetchInterval: 15_000,
    queryFn: ({ signal }) =>
      take(api.GET('/api/refreshes/{refresh}/round', { params: { path: { refresh }, query: { technician } }, signal })),
  })

/** Passes a swap to a colleague. */
export function useHandover(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['HandoverWanted']) =>
      take(api.POST('/api/swaps/{swap}/handovers', { params: { path: { swap } }, headers: repeatKey(), body })),
    onSuccess: (passed) => (passed.done ? queries.invalidateQueries() : undefined),
  })
}

/** Passes what is left of a day to colleagues; a look first says what would become of each swap. */
export function useDayHandover(refresh: string, technician: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['DayHandoverWanted']) =>
      take(
        api.POST('/api/refreshes/{refresh}/technicians/{technician}/day-handover', {
          params: { path: { refresh, technician } },
          headers: repeatKey(),
          body,
        }),
      ),
    onSuccess: (seen) => (seen.done ? queries.invalidateQueries() : undefined),
  })
}
