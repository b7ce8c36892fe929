import { queryOptions } from '@tanstack/react-query'
import { api, Refused, take } from '../../api/client'

/** Who is signed in; null: nobody. */
export const meQuery = queryOptions({
  queryKey: ['me'],
  staleTime: 60_000,
  queryFn: async ({ signal }) => {
    try {
      return await take(api.GET('/api/me', { signal }))
    } catch (error) {
      if (error instanceof Refused && error.status === 401) return null
      throw error
    }
  },
})

export const refreshesQuery = queryOptions({
  queryKey: ['refreshes'],
  staleTime: 60_000,
  queryFn: ({ signal }) => take(api.GET('/api/refreshes', { signal })),
})
