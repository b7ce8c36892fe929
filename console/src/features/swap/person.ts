import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, take } from '../../api/client'
import { swapKeys } from '../swaps/queries'

/** What is kept about whoever a swap is for. */
export const keptQuery = (swap: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(swap), 'kept'],
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/person/kept', { params: { path: { swap } }, signal })),
  })

/** Their personal links, without the secrets. */
export const linksQuery = (swap: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(swap), 'links'],
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/person-links', { params: { path: { swap } }, signal })),
  })

export function useWithdrawLinks(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => take(api.DELETE('/api/swaps/{swap}/person-links', { params: { path: { swap } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(swap) }),
  })
}

export function useErasure(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (reason: string) =>
      take(api.POST('/api/swaps/{swap}/person/erasure', { params: { path: { swap } }, headers: repeatKey(), body: { reason } })),
    onSettled: () => queries.invalidateQueries(),
  })
}
