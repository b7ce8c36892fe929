import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query'
import { api, newName, Refused, repeatKey, type Schemas, take } from '../../api/client'
import { tell } from '../plan/queries'

export type Taken = Schemas['RosterTaken']

export const takingsQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['takings', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/roster/takings', { params: { path: { refresh } }, signal })),
  })

export type Options = { dryRun: boolean; skipFaulty: boolean; dropGone: boolean }

/** How far a roster is: on its way to the service, or with it. */
export type Stage = { stage: 'sending' | Schemas['RosterProgress']['stage']; share: number; of: number }

const often = 300

/** Sends a file and tells how far it is: a large one takes a moment to go over a slow line, and another to be read. */
export async function sendRoster(refresh: string, file: File, options: Options, progress: (at: Stage) => void): Promise<Taken> {
  const name = newName()
  let over = false
  let timer: ReturnType<typeof setTimeout> | undefined
  const ask = async () => {
    // Not being told how far it is does not matter to the taking itself.
    const seen = await take(api.GET('/api/refreshes/{refresh}/roster/progress/{name}', { params: { path: { refresh, name } } })).catch(
      () => null,
    )
    if (over) return
    if (seen && seen.stage !== 'waiting') progress({ stage: seen.stage, share: seen.of > 0 ? seen.rows / seen.of : 0, of: seen.of })
    timer = setTimeout(ask, often)
  }
  timer = setTimeout(ask, often)
  try {
    return await send(refresh, file, { ...options, name }, (share) => progress({ stage: 'sending', share, of: 0 }))
  } finally {
    over = true
    clearTimeout(timer)
  }
}

function send(refresh: string, file: File, options: Options & { name: string }, progress: (share: number) => void): Promise<Taken> {
  const query = new URLSearchParams(Object.entries(options).map(([k, v]) => [k, String(v)]))
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest()
    request.open('POST', `/api/refreshes/${encodeURIComponent(refresh)}/roster?${query}`)
    request.setRequestHeader('Content-Type', 'application/octet-stream')
    if (!options.dryRun) request.setRequestHeader('Idempotency-Key', repeatKey()['Idempotency-Key'])
    request.upload.onprogress = (e) => e.lengthComputable && progress(e.loaded / e.total)
    request.onerror = () =>
      reject(new Refused(0, 'offline', 'The service cannot be reached. The file is still chosen; try again when the network is back.'))
    request.onload = () => {
      const body = JSON.parse(request.responseText || '{}')
      if (request.status < 300) resolve(body as Taken)
      else reject(new Refused(request.status, body.code ?? '', body.detail ?? `The service answered ${request.status}.`))
    }
    request.send(file)
  })
}

export function useMatch(refresh: string) {
  return useMutation({
    mutationFn: (columns: Record<string, string>) =>
      take(api.PUT('/api/refreshes/{refresh}/roster/columns', { params: { path: { refresh } }, body: columns })),
    onError: tell,
  })
}

export function useUndoTaking(refresh: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (number: number) =>
      take(
        api.POST('/api/refreshes/{refresh}/roster/takings/{number}/undo', { params: { path: { refresh, number } }, headers: repeatKey() }),
      ),
    onError: tell,
    onSettled: () => queries.invalidateQueries(),
  })
}
