import { notifications } from '@mantine/notifications'
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, Refused, repeatKey, type Schemas, take } from '../../api/client'

export type Plan = Schemas['PlanSeen']
export type Appointment = Schemas['AppointmentSeen']
export type Move = Schemas['MoveWanted']

export const planKeys = {
  all: (refresh: string) => ['plan', refresh] as const,
  now: (refresh: string) => ['plan', refresh, 'now'] as const,
}

export const planQuery = (refresh: string) =>
  queryOptions({
    queryKey: planKeys.now(refresh),
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/plan', { params: { path: { refresh } }, signal })),
  })

export const worldQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['world', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/world', { params: { path: { refresh } }, signal })),
  })

export const changesQuery = (refresh: string, plan: Plan) =>
  queryOptions({
    queryKey: [...planKeys.all(refresh), 'changes', plan.number, plan.version],
    enabled: plan.state === 'draft',
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/plans/compared', { params: { path: { refresh } }, signal })),
  })

/** What a place would break and cost. An answer holds as long as the draft stays what it is. */
export const trialQuery = (refresh: string, version: number, move: Move | null) =>
  queryOptions({
    queryKey: [...planKeys.all(refresh), 'trial', version, move],
    enabled: !!move?.start,
    staleTime: 60_000,
    retry: false,
    queryFn: ({ signal }) =>
      take(
        api.POST('/api/refreshes/{refresh}/plan/draft/trials', {
          params: { path: { refresh } },
          body: move as Move,
          signal,
        }),
      ),
  })

export const whyQuery = (refresh: string, swap: string, version: number) =>
  queryOptions({
    queryKey: [...planKeys.all(refresh), 'why', swap, version],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/plan/why/{swap}', { params: { path: { refresh, swap } }, signal })),
  })

export const tell = (error: unknown) =>
  notifications.show({
    color: 'red',
    title: error instanceof Refused && error.status === 412 ? 'Changed meanwhile' : 'Not done',
    message: error instanceof Error ? error.message : 'Something went wrong.',
    autoClose: 12_000,
  })

function usePlanChange<T, R>(refresh: string, call: (wanted: T) => Promise<R>, done?: (result: R) => void) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: call,
    onSuccess: done,
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: planKeys.now(refresh) }),
  })
}

const ifMatch = (version: number) => ({ 'If-Match': `"${version}"`, ...repeatKey() })

export function useMove(refresh: string) {
  return usePlanChange(
    refresh,
    ({ move, version }: { move: Move; version: number }) =>
      take(
        api.POST('/api/refreshes/{refresh}/plan/draft/moves', {
          params: { path: { refresh } },
          headers: ifMatch(version),
          body: move,
        }),
      ),
    (seen) => {
      if (!seen.isAllowed) tell(new Error(seen.breaks.join(' ')))
    },
  )
}

export function useUndo(refresh: string) {
  return usePlanChange(refresh, (version: number) =>
    take(api.POST('/api/refreshes/{refresh}/plan/draft/undo', { params: { path: { refresh } }, headers: ifMatch(version) })),
  )
}

export function useMake(refresh: string) {
  return usePlanChange(refresh, (wanted: Schemas['PlanWanted']) =>
    take(api.POST('/api/refreshes/{refresh}/plan', { params: { path: { refresh } }, headers: repeatKey(), body: wanted })),
  )
}

export function usePublish(refresh: string) {
  return usePlanChange(refresh, (version: number) =>
    take(api.POST('/api/refreshes/{refresh}/plan/publication', { params: { path: { refresh } }, headers: ifMatch(version) })),
  )
}

export function useDrop(refresh: string) {
  return usePlanChange(refresh, () => take(api.DELETE('/api/refreshes/{refresh}/plan/draft', { params: { path: { refresh } } })))
}

/** Pins a swap where it stands, or takes its pins out. */
export function usePin(refresh: string) {
  return usePlanChange(refresh, (edit: Schemas['SwapEdit']) =>
    take(api.POST('/api/refreshes/{refresh}/swaps/edits', { params: { path: { refresh } }, headers: repeatKey(), body: edit })),
  )
}
