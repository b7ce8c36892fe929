import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import { swapKeys } from '../swaps/queries'

export type Kind = Schemas['SwapKind']
export type Template = Schemas['TemplateSeen']
export type Preview = Schemas['TemplatePreview']
export type Fault = Schemas['TemplateFault']
export type Moves = Schemas['ChecklistsMoved']
type Move = { template: string; version: number; begunToo: boolean }

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

/** What conditions can choose from. */
export const choicesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['template-choices', refresh],
    staleTime: 60_000,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/templates/choices', { params: { path: { refresh } }, signal })),
  })

/** How many swaps have which version, and how far they are. */
export const usesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['template-uses', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/templates/uses', { params: { path: { refresh } }, signal })),
  })

/** Keeps a version; where there is one that is newer than `since`, nothing is kept. */
export function useAddTemplate(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: { yaml: string; since: number | null }) =>
      take(api.POST('/api/refreshes/{refresh}/templates', { params: { path: { refresh } }, headers: repeatKey(), body })),
    onSettled: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['templates', refresh] }),
        queries.invalidateQueries({ queryKey: ['template-uses', refresh] }),
      ]),
  })
}

const moveSome = (refresh: string, body: Move & { dryRun: boolean }) =>
  take(api.POST('/api/refreshes/{refresh}/templates/moves', { params: { path: { refresh } }, headers: repeatKey(), body }))

/** What would change. */
export const useLookMoves = (refresh: string) => useMutation({ mutationFn: (move: Move) => moveSome(refresh, { ...move, dryRun: true }) })

/** Moves them, some at a time, until none is left. */
export function useMoveMany(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (move: Move) => {
      for (;;) {
        const some = await moveSome(refresh, { ...move, dryRun: false })
        if (some.left === 0 || some.swaps === 0) return some
      }
    },
    onSettled: () => queries.invalidateQueries(),
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
