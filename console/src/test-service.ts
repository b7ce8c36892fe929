/**
 * Whatever answers for the service in a test. Import it before anything that makes the client:
 * the client takes the fetch and the Request that it finds.
 */
type Asked = { method: string; path: string; body: unknown; version: string | null }

export const service = {
  asked: [] as Asked[],
  answers: {} as Record<string, unknown | ((asked: Asked) => unknown)>,
  reset() {
    this.asked = []
    this.answers = {}
  },
  changes() {
    return this.asked.filter((a) => a.method !== 'GET')
  },
}

export class Refusal {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly code = 'x',
  ) {}
}

const Plain = globalThis.Request
globalThis.Request = class extends Plain {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === 'string' ? new URL(input, 'http://yard.example') : input, init)
  }
}

globalThis.fetch = async (input, init) => {
  const request = input instanceof Plain ? input : new Request(input as string, init)
  const text = request.method === 'GET' ? '' : await request.text()
  const asked = {
    method: request.method,
    path: decodeURIComponent(new URL(request.url).pathname),
    body: text && request.headers.get('Content-Type')?.includes('json') ? JSON.parse(text) : text || null,
    version: request.headers.get('If-Match'),
  }
  service.asked.push(asked)
  const found = service.answers[`${asked.method} ${asked.path}`]
  const answer = typeof found === 'function' ? (found as (a: Asked) => unknown)(asked) : found
  if (answer === undefined) throw new Error(`Nobody answers ${asked.method} ${asked.path}.`)
  const refused = answer instanceof Refusal
  return new Response(JSON.stringify(refused ? { detail: answer.detail, code: answer.code } : answer), {
    status: refused ? answer.status : 200,
    headers: { 'Content-Type': refused ? 'application/problem+json' : 'application/json' },
  })
}
