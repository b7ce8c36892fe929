import { infiniteQueryOptions, keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, newName, repeatKey, type Schemas, take } from '../../api/client'

export type OldComputer = Schemas['OldComputerSeen']
export type Act = NonNullable<Schemas['CustodyWanted']['act']>

export const oldComputersQuery = (refresh: string, q: string, pallet: string) =>
  infiniteQueryOptions({
    queryKey: ['old-computers', refresh, q, pallet],
    initialPageParam: '',
    placeholderData: keepPreviousData,
    queryFn: ({ signal, pageParam }): Promise<Schemas['PageOfOldComputerSeen']> =>
      take(
        api.GET('/api/refreshes/{refresh}/old-computers', {
          params: { path: { refresh }, query: { q, pallet, cursor: pageParam || undefined, limit: 100 } },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })

export const palletsQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['pallets', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/pallets', { params: { path: { refresh } }, signal })),
  })

export const historyQuery = (refresh: string, tag: string) =>
  queryOptions({
    queryKey: ['old-computer', refresh, tag],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/old-computers/{tag}', { params: { path: { refresh, tag } }, signal })),
  })

/** Says what happened to an old computer. */
export function useMoveOld(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ tag, act, where }: { tag: string; act: Act; where: string | null }) =>
      take(
        api.POST('/api/refreshes/{refresh}/old-computers/{tag}/moves', {
          params: { path: { refresh, tag } },
          headers: repeatKey(),
          body: { id: newName(), act, where, at: null },
        }),
      ),
    onSettled: () => queries.invalidateQueries(),
  })
}

export function useWipe(refresh: string, tag: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['WipeWanted']) =>
      take(
        api.POST('/api/refreshes/{refresh}/old-computers/{tag}/wipe', { params: { path: { refresh, tag } }, headers: repeatKey(), body }),
      ),
    onSettled: () => queries.invalidateQueries(),
  })
}

export function useDeparture(refresh: string, pallet: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['PalletDeparture']) =>
      take(
        api.POST('/api/refreshes/{refresh}/pallets/{pallet}/departure', {
          params: { path: { refresh, pallet } },
          headers: repeatKey(),
          body,
        }),
      ),
    onSettled: () => queries.invalidateQueries(),
  })
}
