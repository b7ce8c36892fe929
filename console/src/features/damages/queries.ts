import { useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type Damage = Schemas['DamageSeen']

/** Looks at what damage of a depot would mean, or says it. */
export function useDamage(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ key, ...body }: Schemas['DamageTold'] & { key: string }) =>
      take(api.POST('/api/refreshes/{refresh}/depots/{key}/damages', { params: { path: { refresh, key } }, headers: repeatKey(), body })),
    onSuccess: (seen) => (seen.done ? queries.invalidateQueries() : undefined),
  })
}
