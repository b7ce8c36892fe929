import { notifications } from '@mantine/notifications'
import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, type Checklist, type Me, newName, Refused, repeatKey, type Schemas, type Step, type SwapSeen, take } from '../../api/client'
import { outbox, type Waiting } from '../../shared/outbox'
import { sendClaim } from '../../shared/sending'
import { swapKeys } from '../swaps/queries'

export const swapQuery = (id: string) =>
  queryOptions({
    queryKey: swapKeys.one(id),
    refetchInterval: 20_000,
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}', { params: { path: { swap: id } }, signal })),
  })

export const inventoryQuery = (id: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(id), 'inventory'],
    retry: false,
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/inventory', { params: { path: { swap: id } }, signal })),
  })

export const carryListQuery = (id: string) =>
  queryOptions({
    queryKey: [...swapKeys.one(id), 'carry-list'],
    queryFn: ({ signal }) => take(api.GET('/api/swaps/{swap}/carry-list', { params: { path: { swap: id } }, signal })),
  })

/** Folders to pick from: at hand for a while after the hand has looked; asked for again until they are there. */
export const foldersQuery = (id: string, since: string | null) =>
  queryOptions<Schemas['FoldersSeen'] | null>({
    queryKey: [...swapKeys.one(id), 'folders', since],
    enabled: since !== null,
    gcTime: 0,
    refetchInterval: (query) => (query.state.data ? false : 1_500),
    queryFn: async ({ signal }): Promise<Schemas['FoldersSeen'] | null> => {
      const seen: unknown = await take(api.GET('/api/swaps/{swap}/folders', { params: { path: { swap: id } }, signal }))
      const tree = seen as Schemas['FoldersSeen'] | undefined
      return tree?.at && since !== null && tree.at >= since ? tree : null
    },
  })

/** Decides about folders. A dialog shows by itself what was refused; elsewhere it is told. */
export function useCarryList(id: string, tells = true) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (decisions: Schemas['CarryDecision'][]) =>
      take(api.PUT('/api/swaps/{swap}/carry-list', { params: { path: { swap: id } }, headers: repeatKey(), body: { decisions } })),
    onSuccess: (list) => queries.setQueryData(carryListQuery(id).queryKey, list),
    onError: tells ? tell : undefined,
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

const tell = (error: unknown) =>
  notifications.show({
    color: 'red',
    title: 'Not done',
    message: error instanceof Error ? error.message : 'Something went wrong.',
    autoClose: 12_000,
  })

type StepClaim = { step: Step; version: number; change: Waiting['change'] }

/**
 * Claims a step as it stands on the screen. A colleague's change to another step is no conflict: the claim is made again
 * on top of it. Only when this very step has changed meanwhile is the claim refused, and the page shows what they did.
 *
 * @param tells Whether a refusal is told beside the page; a dialog that is open shows it by itself.
 */
export function useStep(id: string, tells: () => boolean = () => true) {
  const queries = useQueryClient()
  const claim = ({ step, version, change }: StepClaim) => sendClaim(id, step.key, version, change)
  /** No network: what was said is kept on the device, with its time, and sent later. */
  const keep = async ({ step, change }: StepClaim): Promise<Checklist> => {
    const me = queries.getQueryData<Me | null>(['me'])
    const seen = queries.getQueryData<SwapSeen>(swapKeys.one(id))
    if (!me || !seen) throw new Refused(0, 'offline', 'The service cannot be reached. Try again when the network is back.')
    if (change.claim === 'scanned' && step.expects && change.tag?.trim().toUpperCase() !== step.expects.toUpperCase())
      throw new Refused(0, 'step.wrong-tag', `Wrong computer: ${change.tag} was read, ${step.expects} is expected.`)
    const waiting: Waiting = {
      id: newName(),
      account: me.name,
      swap: id,
      person: seen.swap.name,
      step: { key: step.key, title: step.title },
      change,
      doneAt: Date.now(),
      seen: { state: step.state, at: step.at },
      over: false,
      stuck: null,
    }
    await outbox.add(waiting)
    return seen.checklist
  }
  return useMutation({
    mutationFn: async (wanted: StepClaim) => {
      // What was said before it must arrive before it.
      if (outbox.all().some((w) => w.swap === id && w.step.key === wanted.step.key && !w.stuck)) return keep(wanted)
      let { version } = wanted
      for (let turn = 1; ; turn++) {
        try {
          return await claim({ ...wanted, version })
        } catch (refused) {
          if (refused instanceof Refused && refused.code === 'offline') return keep(wanted)
          if (!(refused instanceof Refused && refused.status === 412) || turn === 5) throw refused
          const { checklist } = await queries.fetchQuery({ ...swapQuery(id), staleTime: 0 })
          const now = checklist.steps.find((s) => s.key === wanted.step.key)
          if (!now || now.state !== wanted.step.state || now.at !== wanted.step.at) throw refused
          version = checklist.version
        }
      }
    },
    onSuccess: (checklist) => queries.setQueryData<SwapSeen>(swapKeys.one(id), (seen) => seen && { ...seen, checklist }),
    onError: (error) => (tells() ? tell(error) : undefined),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** The service verifies too, where a hand would. */
const orderOf = (kind: string) =>
  kind === 'verify-by-service'
    ? { kind: 'verify', byService: true }
    : kind === 'first-trip-by-need'
      ? { kind: 'first-trip', byNeed: true }
      : { kind }

export function useOrder(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (kind: string) =>
      take(api.POST('/api/swaps/{swap}/orders', { params: { path: { swap: id } }, headers: repeatKey(), body: orderOf(kind) })),
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Withdraws the order that waits or is under way. */
export function useWithdrawal(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: () => take(api.DELETE('/api/swaps/{swap}/order', { params: { path: { swap: id } } })),
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Lets the work of a hand rest, or go on. */
export function usePause(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (paused: boolean) => take(api.PUT('/api/swaps/{swap}/pause', { params: { path: { swap: id } }, body: { paused } })),
    onError: tell,
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

export function useWaiver(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ snag, reason }: { snag: string; reason: string }) =>
      take(api.POST('/api/snags/{snag}/waiver', { params: { path: { snag } }, headers: repeatKey(), body: { reason } })),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Says what a source is that did not look like what was carried before. */
export function useSourceAnswer(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ snag, verdict, reason }: { snag: string; verdict: Schemas['SourceVerdict']; reason: string }) =>
      take(api.POST('/api/snags/{snag}/source', { params: { path: { snag } }, headers: repeatKey(), body: { verdict, reason } })),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Signs what was seen: where it is another meanwhile, nothing is signed, and the page shows how it stands. */
export function useSignOff(id: string, tells = true) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({
      part,
      facts,
      name = null,
      drawn = null,
    }: {
      part: Schemas['SignOffPart']
      facts: string | null
      name?: string | null
      drawn?: string | null
    }) =>
      take(
        api.POST('/api/swaps/{swap}/sign-offs', {
          params: { path: { swap: id } },
          headers: repeatKey(),
          body: { part, facts, name, drawn },
        }),
      ),
    onError: (error) => tells && tell(error instanceof Refused && error.missing.length ? new Error(error.missing.join(' ')) : error),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}

/** Opens what was signed again. */
export function useReopening(id: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ part, reason }: { part: Schemas['SignOffPart']; reason: string }) =>
      take(
        api.POST('/api/swaps/{swap}/sign-offs/{part}/reopening', {
          params: { path: { swap: id, part } },
          headers: repeatKey(),
          body: { reason },
        }),
      ),
    onSuccess: (seen) => queries.setQueryData(swapKeys.one(id), seen),
    onSettled: () => queries.invalidateQueries({ queryKey: swapKeys.one(id) }),
  })
}
