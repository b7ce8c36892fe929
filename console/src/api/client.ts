import createClient from 'openapi-fetch'
import type { components, paths } from './generated'

export type Schemas = components['schemas']
export type Me = Schemas['Me']
export type Day = Schemas['DaySeen']
export type Need = Schemas['NeedSeen']
export type SwapListed = Schemas['SwapListed']
export type SwapSeen = Schemas['SwapSeen']
export type Checklist = Schemas['ChecklistSeen']
export type Step = Schemas['StepSeen']
export type Snag = Schemas['SnagSeen']
export type Folder = Schemas['FolderAccount']
export type Refresh = Schemas['RefreshSeen']
export type SignName = 'moving' | 'wants' | 'stopped' | 'done' | 'ahead' | 'off'

/** What the service said instead of doing what was asked. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly missing: string[] = [],
  ) {
    super(message)
  }
}

export const api = createClient<paths>({ baseUrl: '/' })

type Answer<T> = { data?: T; error?: unknown; response: Response }

/** The value of an answer, or a Refused with the service's own words. */
export async function take<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>
  try {
    answer = await call
  } catch {
    throw new Refused(0, 'offline', 'The service cannot be reached. What you typed stays here; try again when the network is back.')
  }
  if (answer.response.ok) return answer.data as T
  const problem = (answer.error ?? {}) as { detail?: string; title?: string; code?: string; missing?: string[] }
  const words =
    problem.detail ??
    (answer.response.status === 403
      ? 'You may not do this. A coordinator can.'
      : (problem.title ?? `The service answered ${answer.response.status}.`))
  throw new Refused(answer.response.status, problem.code ?? `http.${answer.response.status}`, words, problem.missing)
}

/** A key for one intent: a repeated request with it changes nothing. */
/** A name that nobody else gives. A page that did not come over TLS has no randomUUID, but has random values. */
export const newName = () => Array.from(crypto.getRandomValues(new Uint8Array(16)), (b) => b.toString(16).padStart(2, '0')).join('')

export const repeatKey = () => ({ 'Idempotency-Key': newName() })
