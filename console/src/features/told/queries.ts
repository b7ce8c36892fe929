import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, repeatKey, type Schemas, take } from '../../api/client'

export type Told = Schemas['ToldSeen']
export type ToldPage = Schemas['ToldPage']

export const toldQuery = (refresh: string) =>
  queryOptions<ToldPage>({
    queryKey: ['told', refresh],
    refetchInterval: 20_000,
    queryFn: ({ signal }): Promise<ToldPage> => take(api.GET('/api/refreshes/{refresh}/told', { params: { path: { refresh } }, signal })),
  })

/** Tells people by mail from now on, or no more. */
export function useTelling(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (on: boolean) => take(api.PUT('/api/refreshes/{refresh}/notices', { params: { path: { refresh } }, body: { on } })),
    onSuccess: (page) => queries.setQueryData(toldQuery(refresh).queryKey, page),
  })
}

/** Sends a notice once more to some. */
export function useAgain(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['NoticeAgain']) =>
      take(api.POST('/api/refreshes/{refresh}/notices/again', { params: { path: { refresh } }, headers: repeatKey(), body })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['told', refresh] }),
  })
}

/** A personal link: by mail to the address on record, or to hand over; then it is shown this once, and nowhere kept. */
export function usePersonLink(swap: string) {
  return useMutation({
    mutationFn: (way: 'mail' | 'paper') =>
      take(api.POST('/api/swaps/{swap}/person-links', { params: { path: { swap } }, headers: repeatKey(), body: { way } })),
  })
}

export type NoticeText = Schemas['NoticeTextSeen']

/** Texts of all moments in all languages. */
export const textsQuery = (refresh: string) =>
  queryOptions<NoticeText[]>({
    queryKey: ['notice-texts', refresh],
    queryFn: ({ signal }): Promise<NoticeText[]> =>
      take(api.GET('/api/refreshes/{refresh}/notice-texts', { params: { path: { refresh } }, signal })),
  })

/** How a text would read for somebody. */
export const previewTextQuery = (refresh: string, body: Schemas['NoticePreviewWanted']) =>
  queryOptions<Schemas['NoticePreview']>({
    queryKey: ['notice-texts', refresh, 'preview', body],
    enabled: body.swap !== '',
    gcTime: 60_000,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }): Promise<Schemas['NoticePreview']> =>
      take(api.POST('/api/refreshes/{refresh}/notice-texts/preview', { params: { path: { refresh } }, body, signal })),
  })

/** Keeps a text as the refresh's own; an empty one is the one that ships. */
export function useNoticeText(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: ({ moment, language, text }: { moment: string; language: string; text: string }) =>
      take(
        api.PUT('/api/refreshes/{refresh}/notice-texts/{moment}/{language}', {
          params: { path: { refresh, moment, language } },
          headers: repeatKey(),
          body: { text },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ['notice-texts', refresh] }),
  })
}
