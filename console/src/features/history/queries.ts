import { infiniteQueryOptions, keepPreviousData, useMutation } from '@tanstack/react-query'
import { api, type Schemas, take } from '../../api/client'
import type { LedgerSearch } from '../../router'

export type Entry = Schemas['LedgerEntrySeen']

const perPage = 100

/** What happened, the newest first. @param refresh Null: what is of the whole service. */
export const entriesQuery = (refresh: string | null, { of: _, ...search }: LedgerSearch) =>
  infiniteQueryOptions({
    queryKey: ['ledger', refresh, search],
    initialPageParam: '0',
    placeholderData: keepPreviousData,
    queryFn: ({ signal, pageParam }): Promise<Schemas['PageOfLedgerEntrySeen']> =>
      take(
        refresh === null
          ? api.GET('/api/service/ledger', {
              params: { query: { ...search, newest: true, cursor: pageParam, limit: perPage } },
              signal,
            })
          : api.GET('/api/refreshes/{refresh}/ledger', {
              params: { path: { refresh }, query: { ...search, newest: true, cursor: pageParam, limit: perPage } },
              signal,
            }),
      ),
    getNextPageParam: (page) => page.next ?? undefined,
  })

/** Reads the whole history, and holds it against itself, its signed head and the records. */
export const useProof = (refresh: string | null) =>
  useMutation({
    mutationFn: () =>
      take(
        refresh === null
          ? api.GET('/api/service/ledger/check')
          : api.GET('/api/refreshes/{refresh}/ledger/check', { params: { path: { refresh } } }),
      ),
  })
