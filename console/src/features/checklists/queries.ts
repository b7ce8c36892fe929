import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import { swapKeys } from '../swaps/queries'

export type Kind = Schemas['SwapKind']

export const templatesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['templates', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/templates', { params: { path: { refresh } }, signal })),
  })

export const previewQuery = (refresh: string, yaml: string, kind: Kind | null) =>
  queryOptions({
    queryKey: ['template-preview', refresh, yaml, kind],
    enabled: yaml.length > 0,
    gcTime: 10_000,
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      take(api.POST('/api/refreshes/{refresh}/template-preview', { params: { path: { refresh } }, body: { yaml, kind }, signal })),
  })

export function useAddTemplate(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (yaml: string) =>
      take(api.POST('/api/refreshes/{refresh}/templates', { params: { path: { refresh } }, headers: repeatKey(), body: { yaml } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['templates', refresh] }),
  })
}

/** What a move to the newest version of its checklist changes for a swap; with `move`, it is done. */
export function useMove(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (move: boolean) =>
      take(
        api.POST('/api/swaps/{swap}/checklist/version', {
          params: { path: { swap } },
          headers: repeatKey(),
          body: { template: null, version: null, dryRun: !move },
        }),
      ),
    onSuccess: (moved) => (moved.done ? queries.invalidateQueries({ queryKey: swapKeys.one(swap) }) : undefined),
  })
}
