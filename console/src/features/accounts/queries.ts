import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type Account = Schemas['AccountSeen']
export type AccountWanted = Schemas['AccountWanted']
export type Session = Schemas['SessionSeen']

export const accountsQuery = queryOptions({
  queryKey: ['accounts'],
  queryFn: ({ signal }) => take(api.GET('/api/accounts', { signal })),
})

export const sessionsQuery = queryOptions({
  queryKey: ['sessions'],
  queryFn: ({ signal }) => take(api.GET('/api/sessions', { signal })),
})

const useAccountChange = <T>(change: (wanted: T) => Promise<unknown>) => {
  const queries = useQueryClient()
  return useMutation({ mutationFn: change, onSettled: () => queries.invalidateQueries({ queryKey: ['accounts'] }) })
}

/** Makes an account, or changes one. */
export const usePutAccount = () =>
  useAccountChange(({ name, body }: { name: string; body: AccountWanted }) =>
    take(api.PUT('/api/accounts/{name}', { params: { path: { name } }, body })),
  )

export type End = 'disable' | 'enable' | 'sign-out' | 'remove'

/** Ends what an account may, or lets it in again. */
export const useEndAccount = (name: string) =>
  useAccountChange((how: End) => {
    const params = { path: { name } }
    if (how === 'remove') return take(api.DELETE('/api/accounts/{name}', { params }))
    if (how === 'sign-out') return take(api.DELETE('/api/accounts/{name}/sessions', { params }))
    return take(api.PUT('/api/accounts/{name}/use', { params, body: { disabled: how === 'disable' } }))
  })

/** Signs one place out, or all but this one. */
export const useEndSession = () => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (session: string | 'others') =>
      session === 'others'
        ? take(api.DELETE('/api/sessions'))
        : take(api.DELETE('/api/sessions/{session}', { params: { path: { session } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['sessions'] }),
  })
}

export const useChangePassword = () => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['PasswordChange']) => take(api.PUT('/api/me/password', { body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['sessions'] }),
  })
}

const mostLately = 60

/** The newest entries of the service's own ledger, the newest first. */
export const latelyQuery = queryOptions({
  queryKey: ['service-ledger'],
  refetchInterval: 60_000,
  queryFn: async ({ signal }) => {
    const ask = (cursor: number, limit: number) =>
      take(api.GET('/api/service/ledger', { params: { query: { cursor: `${cursor}`, limit } }, signal }))
    // Numbers are without gaps: the total says where the last ones begin.
    const total = Number((await ask(0, 1)).total)
    const page = await ask(Math.max(0, total - mostLately), mostLately)
    return gathered(page.items.map((e) => ({ number: Number(e.number), words: e.words, times: 1, ...entryOf(e.json) })).reverse())
  },
})

export type Lately = { number: number; words: string; times: number; at: string; kind: string }

/** What happened again and again, with nothing else between, is one line, at its last time. */
const gathered = (entries: Lately[]) => {
  const all: Lately[] = []
  for (const e of entries) {
    const last = all.at(-1)
    if (last?.words === e.words) last.times += 1
    else all.push(e)
  }
  return all
}

const entryOf = (json: string) => {
  const { at, kind } = JSON.parse(json) as { at: string; kind: string }
  return { at, kind }
}

export type Feed = Schemas['FeedSeen']

/** Addresses that calendar programs read at. */
export const feedsQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['feeds', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/feeds', { params: { path: { refresh } }, signal })),
  })

export const useMakeFeed = (refresh: string) => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['FeedWanted']) =>
      take(api.POST('/api/refreshes/{refresh}/feeds', { params: { path: { refresh } }, headers: repeatKey(), body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['feeds', refresh] }),
  })
}

export const useEndFeed = (refresh: string) => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (feed: string) => take(api.DELETE('/api/refreshes/{refresh}/feeds/{feed}', { params: { path: { refresh, feed } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['feeds', refresh] }),
  })
}
