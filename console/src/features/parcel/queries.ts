import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import { tell } from '../plan/queries'
import { swapKeys } from '../swaps/queries'

export const landingQuery = (id: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(id), 'landing'],
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/landing', { params: { path: { swap: id } }, signal })),
  })

export const reportQuery = (id: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(id), 'report'],
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/report', { params: { path: { swap: id } }, signal })),
  })

export function useLanding(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (plan: Schemas['LandingWanted']) =>
      take(api.PUT('/api/swaps/{swap}/landing', { params: { path: { swap: id } }, body: plan })),
    onSuccess: (landing) => queries.setQueryData(landingQuery(id).queryKey, landing),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Orders work about the parcel. A dialog shows by itself what was refused; elsewhere it is told. */
export function useParcelOrder(id: string, tells = true) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (wanted: Schemas['OrderWanted']) =>
      take(api.POST('/api/swaps/{swap}/orders', { params: { path: { swap: id } }, headers: repeatKey(), body: wanted })),
    onError: tells ? tell : undefined,
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

export const lostQuery = (find: string) =>
  queryOptions({
    queryKey: ['lost-computers', find],
    queryFn: ({ signal }) => take(api.GET('/api/lost-computers', { params: { query: { q: find } }, signal })),
    staleTime: 10_000,
  })

/** A change of one swap that a dialog asked for; what was refused is shown there. */
function useSwapChange<T>(id: string, change: (wanted: T) => Promise<unknown>) {
  const queries = useQueryClient()
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }) })
}

const of = (id: string) => ({ params: { path: { swap: id } } })

export const useRescue = (id: string) =>
  useSwapChange(id, (wanted: Schemas['RescueWanted']) => take(api.PUT('/api/swaps/{swap}/rescue', { ...of(id), body: wanted })))

export const useReceiver = (id: string) =>
  useSwapChange(id, (wanted: Schemas['ReceiverWanted']) => take(api.PUT('/api/swaps/{swap}/receiver', { ...of(id), body: wanted })))

export const useAcceptance = (id: string) =>
  useSwapChange<void>(id, () => take(api.POST('/api/swaps/{swap}/receiver/acceptance', { ...of(id), headers: repeatKey() })))

export const useRestoreSkip = (id: string) =>
  useSwapChange(id, (wanted: Schemas['RestoreSkipWanted']) => take(api.PUT('/api/swaps/{swap}/restore-skip', { ...of(id), body: wanted })))

export const useRestoreAfterAll = (id: string) => useSwapChange<void>(id, () => take(api.DELETE('/api/swaps/{swap}/restore-skip', of(id))))
