import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, type Refresh, Refused, repeatKey, type Schemas, take } from '../../api/client'
import { refreshesQuery } from '../session/queries'
import { keyOf } from './keys'

export type Part = Schemas['SetUpPartSeen']

export const setUpQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['set-up', refresh],
    refetchInterval: 60_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/set-up', { params: { path: { refresh } }, signal })),
  })

export type RefreshValues = { name: string; zone: string; starts: string; days: number }

/** Makes a refresh. Its key is for machines, and made from its name: where another has it, the next one that is free. */
export function useMakeRefresh() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (values: RefreshValues): Promise<Refresh> => {
      for (let turn = 1; ; turn++) {
        try {
          return await take(api.POST('/api/refreshes', { headers: repeatKey(), body: { key: keyOf(values.name, turn), ...values } }))
        } catch (error) {
          if (!(error instanceof Refused) || error.code !== 'refresh.taken' || turn >= 50) throw error
        }
      }
    },
    onSuccess: () => queries.invalidateQueries({ queryKey: refreshesQuery.queryKey }),
  })
}

export function useChangeRefresh(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: RefreshValues) => take(api.PUT('/api/refreshes/{refresh}', { params: { path: { refresh } }, body })),
    onSuccess: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }),
  })
}

export function useOldHold(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (days: number) => take(api.PUT('/api/refreshes/{refresh}/old-hold', { params: { path: { refresh } }, body: { days } })),
    onSettled: () => queries.invalidateQueries({ queryKey: refreshesQuery.queryKey }),
  })
}

export const keepingQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['keeping', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/keeping', { params: { path: { refresh } }, signal })),
  })

export function useKeeping(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['KeepingRules']) =>
      take(api.PUT('/api/refreshes/{refresh}/keeping', { params: { path: { refresh } }, body })),
    onSettled: () => queries.invalidateQueries({ queryKey: keepingQuery(refresh).queryKey }),
  })
}

/** Sets a technician; those that stand under the key already would be written over, so the key is one that is free. */
export function useAddTechnician(refresh: string, taken: string[]) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ name, sites, shifts }: { name: string; sites: string[]; shifts: string[] }) => {
      let turn = 1
      while (taken.includes(keyOf(name, turn))) turn++
      return take(
        api.PUT('/api/refreshes/{refresh}/technicians/{key}', {
          params: { path: { refresh, key: keyOf(name, turn) } },
          body: { name, sites, shifts, skills: null, absences: null },
        }),
      )
    },
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }),
  })
}

/** Sets a depot and tries it at once. */
export function useSetDepot(refresh: string, taken: string[]) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ key, ...body }: Schemas['DepotWanted'] & { key: string | null }) => {
      let turn = 1
      while (key === null && taken.includes(keyOf(body.name, turn))) turn++
      return take(
        api.PUT('/api/refreshes/{refresh}/depots/{key}', {
          params: { path: { refresh, key: key ?? keyOf(body.name, turn) } },
          body,
        }),
      )
    },
    onSettled: () => queries.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'me' }),
  })
}
