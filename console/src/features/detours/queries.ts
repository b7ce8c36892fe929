import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type Detour = Schemas['DetourKind']
export type DetourTold = Schemas['DetourTold']

export const sparesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['spares', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/spares', { params: { path: { refresh } }, signal })),
  })

/** Looks at what would follow, or does it. */
export function useDetour(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: DetourTold) =>
      take(api.POST('/api/swaps/{swap}/detours', { params: { path: { swap } }, headers: repeatKey(), body })),
    onSuccess: (taken) => (taken.done ? queries.invalidateQueries() : undefined),
  })
}
