import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type FollowUp = Schemas['FollowUpSeen']

/** What a follow-up can hold up until it is ended. */
export const holdChoices: { value: Schemas['FollowUpHold']; label: string }[] = [
  { value: 'nothing', label: 'Nothing' },
  { value: 'wipe', label: "The old computer's wipe" },
  { value: 'signOff', label: 'The sign-offs, and the wipe' },
]

export const followUpsQuery = (refresh: string, end: 'open' | 'all') =>
  queryOptions({
    queryKey: ['follow-ups', refresh, end],
    queryFn: ({ signal }) =>
      take(api.GET('/api/refreshes/{refresh}/follow-ups', { params: { path: { refresh }, query: { end } }, signal })),
  })

export function useOpenFollowUp(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['FollowUpWanted']) =>
      take(api.POST('/api/swaps/{swap}/follow-ups', { params: { path: { swap } }, headers: repeatKey(), body })),
    onSettled: () => queries.invalidateQueries(),
  })
}

export function useRefusal(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (words: string) =>
      take(api.POST('/api/swaps/{swap}/refusal', { params: { path: { swap } }, headers: repeatKey(), body: { words } })),
    onSettled: () => queries.invalidateQueries(),
  })
}

export function useChangeFollowUp() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ id, body }: { id: string; body: Schemas['FollowUpChange'] }) =>
      take(api.PUT('/api/follow-ups/{followUp}', { params: { path: { followUp: id } }, body })),
    onSettled: () => queries.invalidateQueries(),
  })
}

export function useEndFollowUp() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ id, outcome }: { id: string; outcome: string }) =>
      take(api.POST('/api/follow-ups/{followUp}/end', { params: { path: { followUp: id } }, headers: repeatKey(), body: { outcome } })),
    onSettled: () => queries.invalidateQueries(),
  })
}
