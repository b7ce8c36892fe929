import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'
import { makePasskey, showPasskey } from '../../shared/passkey'

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

export type End = 'disable' | 'enable' | 'sign-out' | 'forget' | 'remove'

/** Ends what an account may, or lets it in again. */
export const useEndAccount = (name: string) =>
  useAccountChange((how: End) => {
    const params = { path: { name } }
    if (how === 'remove') return take(api.DELETE('/api/accounts/{name}', { params }))
    if (how === 'forget') return take(api.DELETE('/api/accounts/{name}/passkeys', { params }))
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

/** One's own passkeys, and how many recovery codes are left. */
export const passkeysQuery = queryOptions({
  queryKey: ['passkeys'],
  queryFn: ({ signal }) => take(api.GET('/api/me/passkeys', { signal })),
})

const useOwnSecond = <T, A>(change: (wanted: T) => Promise<A>) => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSettled: () => Promise.all([['passkeys'], ['me'], ['sessions']].map((queryKey) => queries.invalidateQueries({ queryKey }))),
  })
}

/** Makes a passkey on this device, and adds it. */
export const useAddPasskey = () =>
  useOwnSecond(async ({ name, password }: { name: string; password: string }) => {
    const begun = await take(api.POST('/api/me/passkeys/begin', { body: { password: password || null } }))
    const passkey = (await makePasskey(begun.passkey)) as never
    return take(api.POST('/api/me/passkeys', { body: { ticket: begun.ticket, name, passkey } }))
  })

export const useRemovePasskey = () =>
  useOwnSecond((passkey: string) => take(api.DELETE('/api/me/passkeys/{passkey}', { params: { path: { passkey } } })))

export const useNewCodes = () => useOwnSecond(() => take(api.POST('/api/me/recovery-codes')))

/** Shows a passkey, so that this session counts for what asks for one. */
export const useShowSecond = () =>
  useOwnSecond(async () => {
    const asked = await take(api.POST('/api/me/second/begin'))
    const passkey = (await showPasskey(asked.passkey)) as never
    return take(api.POST('/api/me/second', { body: { ticket: asked.ticket, passkey } }))
  })

export type StaffGroup = Schemas['StaffGroup']

/** What groups of the organisation open here. */
export const staffGroupsQuery = queryOptions({
  queryKey: ['staff-groups'],
  queryFn: ({ signal }) => take(api.GET('/api/staff-groups', { signal })),
})

const useGroupChange = <T>(change: (wanted: T) => Promise<unknown>) => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: change,
    onSettled: () => Promise.all([['staff-groups'], ['accounts']].map((queryKey) => queries.invalidateQueries({ queryKey }))),
  })
}

export const usePutGroup = () =>
  useGroupChange(({ name, ...body }: StaffGroup) => take(api.PUT('/api/staff-groups/{group}', { params: { path: { group: name } }, body })))

export const useRemoveGroup = () =>
  useGroupChange((group: string) => take(api.DELETE('/api/staff-groups/{group}', { params: { path: { group } } })))

/** Whether whoever works in a refresh shows a passkey, too. */
export const useAskSecond = (refresh: string) => {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (asked: boolean) => take(api.PUT('/api/refreshes/{refresh}/second', { params: { path: { refresh } }, body: { asked } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['refreshes'] }),
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
