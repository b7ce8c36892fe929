import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, Refused, type Schemas, take } from '../../api/client'
import { sendClaim } from '../../shared/sending'
import { swapQuery } from '../swap/queries'

export type Ready = Schemas['ReadyPage']
export type VisitReady = Schemas['VisitReady']
export type Lack = Schemas['LackSeen']
export type Cure = Schemas['CureSeen']
export type MorningMail = Schemas['MorningMailSeen']
export type ReadyAsked = { day?: string; wave?: string; site?: string }

export const readyQuery = (refresh: string, asked: ReadyAsked) =>
  queryOptions({
    queryKey: ['ready', refresh, asked],
    refetchInterval: 30_000,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/ready', { params: { path: { refresh }, query: asked }, signal })),
  })

/** Says that a person was told, on top of whatever a colleague said meanwhile of other steps. */
export function useSayTold(swap: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: async (step: string) => {
      for (let turn = 1; ; turn++) {
        const { checklist } = await queries.fetchQuery({ ...swapQuery(swap), staleTime: 0 })
        try {
          return await sendClaim(swap, step, checklist.version, { claim: 'ticked' })
        } catch (error) {
          if (!(error instanceof Refused) || error.status !== 412 || turn >= 5) throw error
        }
      }
    },
    onSettled: () => queries.invalidateQueries(),
  })
}

export const morningQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['morning', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/ready/mail', { params: { path: { refresh } }, signal })),
  })

/** Sets to whom the mail in the morning goes, and from when on. */
export function useSetMorning(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['MorningMailWanted']) =>
      take(api.PUT('/api/refreshes/{refresh}/ready/mail', { params: { path: { refresh } }, body })),
    onSuccess: (mail) => queries.setQueryData(morningQuery(refresh).queryKey, mail),
  })
}

/** Sends it now, to those who get it. */
export const useSendMorning = (refresh: string) =>
  useMutation({ mutationFn: () => take(api.POST('/api/refreshes/{refresh}/ready/mail/sent', { params: { path: { refresh } } })) })
