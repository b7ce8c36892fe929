import { queryOptions, useMutation, useMutationState, useQueryClient } from '@tanstack/react-query'
import { api, type Schemas, take } from '../api/client'

export type Page = Schemas['PersonPage']

/** The page; asked for again by itself, sooner while files move. */
export const pageQuery = queryOptions<Page>({
  queryKey: ['page'],
  refetchInterval: (query) => (query.state.data?.swap.moving ? 3_000 : 20_000),
  queryFn: ({ signal }): Promise<Page> => take(api.GET('/api/person', { signal })),
})

/** Times that fit, while somebody looks at them. */
export const slotsQuery = queryOptions({
  queryKey: ['slots'],
  gcTime: 0,
  refetchInterval: 10_000,
  queryFn: ({ signal }) => take(api.GET('/api/person/slots', { signal })),
})

/** What is kept about oneself; asked for when somebody looks. */
export const keptQuery = queryOptions({ queryKey: ['kept'], queryFn: ({ signal }) => take(api.GET('/api/person/kept', { signal })) })

/** Opens the link that the page was reached by, once; the secret does not stay in the address. */
export async function openLink() {
  const secret = window.location.hash.slice(1)
  if (!secret) return
  await take(api.POST('/api/person/session', { body: { secret } }))
  window.history.replaceState(null, '', window.location.pathname)
}

/** Does something, and shows the page as it is then. One change waits for the other: each answer is the page after all before it. */
export function useChange<T>(change: (what: T) => Promise<Page>, name = 'change') {
  const queries = useQueryClient()
  return useMutation({
    mutationKey: [name],
    scope: { id: 'page' },
    mutationFn: change,
    onSuccess: async (page) => {
      // A look that began before the change would show the page without it.
      await queries.cancelQueries({ queryKey: pageQuery.queryKey })
      queries.setQueryData(pageQuery.queryKey, page)
    },
    onError: () => queries.invalidateQueries({ queryKey: pageQuery.queryKey }),
  })
}

/** What was asked for by changes of a name and is not answered yet, the latest last. */
export const usePending = <T>(name: string) =>
  useMutationState({ filters: { mutationKey: [name], status: 'pending' }, select: (change) => change.state.variables as T })

export const setStep = ({ step, done }: { step: string; done: boolean }) =>
  take(api.PUT('/api/person/steps/{step}', { params: { path: { step } }, body: { done } }))
export const setLanguage = (language: string) => take(api.PUT('/api/person/language', { body: { language } }))
export const setMail = (off: boolean) => take(api.PUT('/api/person/mail', { body: { off } }))
export const decide = (body: Schemas['CarryChange']) => take(api.PUT('/api/person/carry-list', { body }))
export const say = (body: Schemas['PersonSays']) => take(api.POST('/api/person/words', { body }))
export const accept = (body: Schemas['PersonAccepts']) => take(api.POST('/api/person/acceptance', { body }))
export const setPassphrase = (passphrase: string) => take(api.PUT('/api/person/passphrase', { body: { passphrase } }))
export const start = (kind: string) => take(api.POST('/api/person/orders', { body: { kind } }))
export const askForPart = (path: string) => take(api.POST('/api/person/parts', { body: { path } }))
export const choose = (start: string) => take(api.PUT('/api/person/slot', { body: { start } }))
export const allowNames = (allowed: boolean) => take(api.PUT('/api/person/names', { body: { allowed } }))
export const pause = (paused: boolean) => take(api.PUT('/api/person/pause', { body: { paused } }))
export const waitFor = (body: Schemas['WaitWanted']) => take(api.PUT('/api/person/wait', { body }))
export const stopWaiting = () => take(api.DELETE('/api/person/wait'))
export const offer = (offered: boolean) => take(api.PUT('/api/person/offer', { body: { offered } }))
export const askExchange = (offer: string) => take(api.POST('/api/person/exchanges', { body: { offer } }))
export const answerExchange = ({ exchange, agrees }: { exchange: string; agrees: boolean }) =>
  take(api.POST('/api/person/exchanges/{exchange}/answer', { params: { path: { exchange } }, body: { agrees } }))
/** How somebody without a link that opens comes in. */
export const doorsQuery = queryOptions({ queryKey: ['doors'], queryFn: ({ signal }) => take(api.GET('/api/person/doors', { signal })) })
export const askForLink = (mail: string) => take(api.POST('/api/person/links', { body: { mail } }))
