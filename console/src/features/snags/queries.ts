import { infiniteQueryOptions, keepPreviousData } from '@tanstack/react-query'
import { api, type Schemas, take } from '../../api/client'
import type { SnagsSearch } from '../../router'

export type Listed = Schemas['SnagListed']

export const kinds: [Listed['snag']['kind'], string][] = [
  ['unreadable', 'cannot be read'],
  ['changedWhileRead', 'keeps changing'],
  ['goneWhileRead', 'vanished'],
  ['device', 'device'],
  ['pipe', 'pipe'],
  ['socket', 'socket'],
  ['depotRefused', 'refused by the depot'],
  ['noRoom', 'no room in the depot'],
  ['damagedInDepot', 'damaged in the depot'],
  ['notRestored', 'not restored'],
  ['attributeLost', 'attribute lost'],
  ['sourceDoubted', 'another source'],
  ['unfinished', 'broke off'],
  ['otherLists', 'parcel not as left'],
  ['untoldTrip', 'trip not reported'],
]

export const snagsQuery = (refresh: string, search: SnagsSearch) =>
  infiniteQueryOptions({
    queryKey: ['snags', refresh, search],
    initialPageParam: '',
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
    queryFn: ({ signal, pageParam }) =>
      take(
        api.GET('/api/refreshes/{refresh}/snags', {
          params: { path: { refresh }, query: { ...search, cursor: pageParam || undefined, limit: 100 } },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })
