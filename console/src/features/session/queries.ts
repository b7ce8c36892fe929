import { queryOptions, useQuery } from '@tanstack/react-query'
import { api, Refused, take } from '../../api/client'
import { forgetAnswers, leaving } from '../../shared/leaving'

/** Who is signed in; null: nobody. */
export const meQuery = queryOptions({
  queryKey: ['me'],
  staleTime: 60_000,
  queryFn: async ({ signal }) => {
    if (leaving.isUnderWay()) {
      await leaving.end()
      return null
    }
    try {
      return await take(api.GET('/api/me', { signal }))
    } catch (error) {
      if (!(error instanceof Refused) || error.status !== 401) throw error
      // The account was disabled, signed out elsewhere, or was not used for long: nothing of it stays on this device.
      await forgetAnswers()
      return null
    }
  },
})

/** Ways to sign in beside a name and a password. */
export const doorsQuery = queryOptions({
  queryKey: ['doors'],
  staleTime: Infinity,
  queryFn: ({ signal }) => take(api.GET('/api/sessions/doors', { signal })),
})

/** Whether somebody sees a whole refresh, and not what is of their sites only. */
export const useOversees = () => {
  const me = useQuery(meQuery)
  return me.data?.role === 'coordinator' || me.data?.role === 'auditor'
}

/** Whether somebody plans and decides here. */
export const useLeads = () => useQuery(meQuery).data?.role === 'coordinator'

export const refreshesQuery = queryOptions({
  queryKey: ['refreshes'],
  staleTime: 60_000,
  queryFn: ({ signal }) => take(api.GET('/api/refreshes', { signal })),
})
