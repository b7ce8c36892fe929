import { infiniteQueryOptions, keepPreviousData, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type Hand = Schemas['HandSeen']

export const handsQuery = (refresh: string, q: string) =>
  infiniteQueryOptions({
    queryKey: ['hands', refresh, q],
    initialPageParam: '',
    placeholderData: keepPreviousData,
    // When a hand was heard of is told to the minute.
    refetchInterval: 60_000,
    queryFn: ({ signal, pageParam }): Promise<Schemas['PageOfHandSeen']> =>
      take(
        api.GET('/api/refreshes/{refresh}/hands', {
          params: { path: { refresh }, query: { q, cursor: pageParam || undefined, limit: 100 } },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })

/** The hand at a computer is none any more. */
export function useWithdrawHand(refresh: string, tag: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () =>
      take(api.DELETE('/api/refreshes/{refresh}/hands/{tag}', { params: { path: { refresh, tag } }, headers: repeatKey() })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['hands'] }),
  })
}

/** A code that enrols the hand of one computer, once. */
export function useMakeCode(refresh: string) {
  return useMutation({
    mutationFn: (tag: string) =>
      take(api.POST('/api/refreshes/{refresh}/codes', { params: { path: { refresh } }, headers: repeatKey(), body: { tag } })),
  })
}
