import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/react-query'
import { api, type Schemas, take } from '../../api/client'
import type { SwapsSearch } from '../../router'

export const swapKeys = { all: ['swaps'] as const, one: (id: string) => ['swaps', 'one', id] as const }

export const swapsQuery = (refresh: string, search: SwapsSearch) =>
  infiniteQueryOptions({
    queryKey: ['swaps', 'list', refresh, search],
    initialPageParam: '',
    placeholderData: keepPreviousData,
    queryFn: ({ signal, pageParam }): Promise<Schemas['PageOfSwapListed']> =>
      take(
        api.GET('/api/refreshes/{refresh}/swaps', {
          params: { path: { refresh }, query: { ...search, cursor: pageParam || undefined, limit: 100 } },
          signal,
        }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })

const mostFound = 12

/** Some swaps by a person's name, a tag or a room. */
export const foundSwapsQuery = (refresh: string, asked: string) =>
  queryOptions({
    queryKey: ['swaps', 'found', refresh, asked],
    enabled: asked !== '',
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      take(api.GET('/api/refreshes/{refresh}/swaps', { params: { path: { refresh }, query: { q: asked, limit: mostFound } }, signal })),
  })

export const sitesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['sites', refresh],
    staleTime: 60_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/sites', { params: { path: { refresh } }, signal })),
  })

export const techniciansQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['technicians', refresh],
    staleTime: 60_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/technicians', { params: { path: { refresh } }, signal })),
  })
