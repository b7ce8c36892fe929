import { notifications } from '@mantine/notifications'
import { QueryClient, useQuery } from '@tanstack/react-query'
import { render, screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Refresh, Step, SwapSeen } from '../../api/client'
import { RefreshProvider } from '../../shell/refresh'
import { Around, userOfTest } from '../../test-page'
import { ChecklistCard } from './ChecklistCard'
import { swapQuery } from './queries'
import { Snags } from './Snags'

// Before the client is made: relative addresses as a browser reads them, and whatever answers for the service.
const service = vi.hoisted(() => {
  const answers = { now: (_: Request): Promise<Response> => Promise.reject(new Error('no service')) }
  const Plain = globalThis.Request
  globalThis.Request = class extends Plain {
    constructor(input: RequestInfo | URL, init?: RequestInit) {
      super(typeof input === 'string' ? new URL(input, 'http://yard.example') : input, init)
    }
  }
  globalThis.fetch = (input) => answers.now(input as Request)
  return answers
})

const step = (key: string, over: Partial<Step> = {}): Step =>
  ({
    key,
    title: `Step ${key}`,
    phase: 'before',
    kind: 'tick',
    help: '',
    state: 'open',
    by: null,
    at: null,
    reason: null,
    expects: null,
    ...over,
  }) as Step

/** The service as this page sees it: one swap, claims by version, as the real one answers. */
class Yard {
  version = 3
  steps = [step('told'), step('ready'), step('tag', { kind: 'scan', expects: 'KB-1' }), step('staged', { kind: 'automatic' })]
  frozen: string[] = []
  templates: unknown[] = []
  differences: unknown[] = []
  said: unknown[] = []
  snags: unknown[] = []
  asked: string[] = []
  /** Called before each claim is looked at: what a colleague does at that moment. */
  meanwhile: () => void = () => {}

  seen(): SwapSeen {
    return {
      swap: { id: 'spring-0001', isBusy: false },
      checklist: {
        template: 'T',
        templateVersion: 1,
        version: this.version,
        steps: this.steps.map((s) => ({ ...s })),
        frozen: this.frozen,
      },
      signOffs: [],
      snags: this.snags,
    } as unknown as SwapSeen
  }

  set(key: string, over: Partial<Step>) {
    this.steps = this.steps.map((s) => (s.key === key ? { ...s, ...over } : s))
    this.version++
  }

  answer = async (request: Request): Promise<Response> => {
    const path = new URL(request.url).pathname
    this.asked.push(`${request.method} ${path}`)
    const json = (status: number, body: unknown) =>
      new Response(JSON.stringify(body), {
        status,
        headers: { 'Content-Type': status < 400 ? 'application/json' : 'application/problem+json' },
      })
    if (path.endsWith('/templates')) return json(200, this.templates)
    if (path.endsWith('/checklist/version')) {
      const { dryRun } = (await request.json()) as { dryRun: boolean }
      return json(200, { fromTemplate: 'T', fromVersion: 1, toTemplate: 'T', toVersion: 2, steps: this.differences, done: !dryRun })
    }
    if (request.method === 'GET') return json(200, this.seen())
    if (path.endsWith('/waiver')) return json(422, { code: 'snag.reason', detail: 'A reason has more than spaces.' })
    const change = (await request.json()) as { claim: string; tag: string | null; reason: string | null }
    this.meanwhile()
    if (request.headers.get('If-Match') !== `"${this.version}"`)
      return json(412, { code: 'changed-meanwhile', detail: 'Somebody changed it.' })
    if (change.claim === 'scanned' && change.tag !== 'KB-1')
      return json(422, { code: 'step.wrong-tag', detail: `Wrong computer: ${change.tag}` })
    const key = path.split('/').at(-1) as string
    this.said.push(change)
    this.set(key, {
      state:
        change.claim === 'not-applicable' ? 'not-applicable' : change.claim === 'started' || change.claim === 'ran' ? 'under-way' : 'done',
      runs: change.claim === 'ran' ? 1 : 0,
      startedAt: change.claim === 'started' ? '2026-11-25T08:55:00Z' : null,
      by: 'kit',
      at: '2026-11-25T09:00:00Z',
      reason: change.reason,
    })
    return json(200, this.seen().checklist)
  }
}

let yard: Yard
beforeEach(() => {
  notifications.clean()
  yard = new Yard()
  service.now = yard.answer
})

function Page({ works }: { works: boolean }) {
  const { data } = useQuery(swapQuery('spring-0001'))
  return data ? (
    <>
      <ChecklistCard seen={data} works={works} leads={false} />
      <Snags seen={data} works={works} />
    </>
  ) : null
}

async function open(works = true) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } })
  render(
    <Around queries={queries}>
      <RefreshProvider value={{ key: 'spring' } as Refresh}>
        <Page works={works} />
      </RefreshProvider>
    </Around>,
  )
  await screen.findByText('Step told')
  return userOfTest()
}

const row = (name: string) => screen.getByRole('button', { name: new RegExp(`(open|under way|done|apply):\\s*Step ${name}`) })
const claims = () => yard.asked.filter((a) => a.startsWith('PUT'))

describe('the checklist', () => {
  it('is worked by keys: arrows choose, Enter ticks', async () => {
    const user = await open()
    row('told').focus()
    await user.keyboard('{ArrowDown}{Enter}')
    await screen.findByRole('button', { name: /done:\s*Step ready/ })
    expect(row('told')).toHaveAccessibleName(/open:\s*Step told/)
    expect(claims()).toHaveLength(1)
  })

  it('makes a claim again on top of what a colleague did to another step', async () => {
    const user = await open()
    let times = 0
    yard.meanwhile = () => {
      if (++times <= 2) yard.set('ready', { state: times === 1 ? 'done' : 'open', at: `2026-11-25T09:0${times}:00Z` })
    }
    await user.click(row('told'))
    await screen.findByRole('button', { name: /done:\s*Step told/ })
    expect(claims()).toHaveLength(3)
  })

  it('does not overwrite what a colleague did to the same step, and shows it', async () => {
    const user = await open()
    let times = 0
    yard.meanwhile = () => {
      if (++times === 1) yard.set('told', { state: 'not-applicable', by: 'noor', at: '2026-11-25T09:00:00Z', reason: 'told by phone' })
    }
    await user.click(row('told'))
    await screen.findByText('(told by phone)')
    expect(claims()).toHaveLength(1)
    expect(await screen.findByText('Somebody changed it.')).toBeInTheDocument()
  })

  it('gives up after a few turns with a checklist that changes all the time', async () => {
    const user = await open()
    yard.meanwhile = () => yard.set('ready', { at: `${yard.version}` })
    await user.click(row('told'))
    await screen.findByText('Somebody changed it.')
    expect(claims()).toHaveLength(5)
  })

  it('refuses the wrong computer in the dialog and keeps what was typed', async () => {
    const user = await open()
    await user.click(row('tag'))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/Tag on the computer/), 'KB-9{Enter}')
    expect(await within(dialog).findByRole('alert')).toHaveTextContent('Wrong computer: KB-9')
    expect(within(dialog).getByLabelText(/Tag on the computer/)).toHaveValue('KB-9')
    await user.clear(within(dialog).getByLabelText(/Tag on the computer/))
    await user.type(within(dialog).getByLabelText(/Tag on the computer/), 'KB-1{Enter}')
    await screen.findByRole('button', { name: /done:\s*Step tag/ })
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
  })

  it('asks for a reason where a step does not apply, and takes none that is blank', async () => {
    const user = await open()
    row('ready').focus()
    await user.keyboard('n')
    const dialog = await screen.findByRole('dialog')
    const button = within(dialog).getByRole('button', { name: 'Does not apply' })
    expect(button).toBeDisabled()
    await user.type(within(dialog).getByLabelText(/Why does it not apply/), '   ')
    expect(button).toBeDisabled()
    await user.type(within(dialog).getByLabelText(/Why does it not apply/), 'on leave')
    await user.click(button)
    await screen.findByText(/on leave/)
    expect(row('ready')).toHaveAccessibleName(/does not apply/)
  })

  it('lets nobody set what the system checks, what is signed off, or anything without the right', async () => {
    yard.frozen = ['before']
    const user = await open()
    for (const name of ['told', 'staged', 'tag']) await user.click(row(name))
    expect(claims()).toHaveLength(0)
    expect(screen.queryByRole('dialog')).toBeNull()
    expect(screen.getByText(/signed off/)).toBeInTheDocument()
  })

  it('asks each kind of step for what it wants, and says just that', async () => {
    yard.steps = [
      step('told'),
      step('printer', { kind: 'choice', options: ['prints', 'none needed'] }),
      step('screens', { kind: 'number', unit: 'screens', least: 0, most: 6 }),
      step('note', { kind: 'text', help: 'Write it **down**.' }),
      step('clear', { kind: 'again', expects: 'nothing more goes' }),
      step('restart', { kind: 'restart' }),
    ]
    const user = await open()
    await user.click(row('printer'))
    await user.click(await screen.findByRole('button', { name: 'none needed' }))
    await screen.findByRole('button', { name: /done:\s*Step printer/ })
    await user.click(row('screens'))
    await screen.findByText('0 to 6')
    await user.type(await screen.findByLabelText(/How many screens/), '2{Enter}')
    await screen.findByRole('button', { name: /done:\s*Step screens/ })
    await user.click(row('note'))
    expect((await screen.findByText('down')).tagName).toBe('STRONG')
    await user.type(screen.getByLabelText(/written down/), 'behind the door')
    await user.click(screen.getByRole('button', { name: 'Keep it' }))
    await screen.findByRole('button', { name: /done:\s*Step note/ })
    await user.click(row('clear'))
    await user.click(await screen.findByRole('button', { name: 'Ran it, not there yet' }))
    await screen.findByRole('button', { name: /under way:\s*Step clear.*1 run, not yet/ })
    await user.click(row('restart'))
    await screen.findByRole('button', { name: /under way:\s*Step restart/ })
    await user.click(row('restart'))
    await screen.findByRole('button', { name: /done:\s*Step restart/ })
    const nothing = { tag: null, reason: null, value: null }
    expect(yard.said).toEqual([
      { ...nothing, claim: 'answered', value: 'none needed' },
      { ...nothing, claim: 'answered', value: '2' },
      { ...nothing, claim: 'answered', value: 'behind the door' },
      { ...nothing, claim: 'ran' },
      { ...nothing, claim: 'started' },
      { ...nothing, claim: 'ticked' },
    ])
  })

  it('offers a newer version, shows what it would change, and moves only when told to', async () => {
    yard.templates = [{ name: 'T', version: 2 }]
    yard.differences = [{ key: 'told', title: 'Step told', what: 'asks-anew', wasDealtWith: true }]
    const user = await open()
    await user.click(await screen.findByRole('button', { name: 'What would change?' }))
    await screen.findByText(/no longer counts/)
    expect(yard.asked.filter((a) => a.endsWith('/checklist/version'))).toHaveLength(1)
    await user.click(screen.getByRole('button', { name: 'Move to version 2' }))
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull())
    expect(yard.asked.filter((a) => a.endsWith('/checklist/version'))).toHaveLength(2)
  })

  it('shows an auditor the same without a way to change it', async () => {
    const user = await open(false)
    await user.click(row('told'))
    row('ready').focus()
    await user.keyboard('n')
    expect(claims()).toHaveLength(0)
    expect(screen.queryByRole('button', { name: /More for/ })).toBeNull()
  })
})

describe('snags', () => {
  it('are waived with a reason that stays in the dialog when the service refuses it', async () => {
    yard.snags = [
      { id: 's1', path: 'Documents/<b>pipe</b>', kind: 'pipe', reason: 'It is a pipe.', side: 'old', end: 'open' },
      {
        id: 's2',
        path: 'Mail/x',
        kind: 'pipe',
        reason: 'r',
        side: 'old',
        end: 'waived',
        endedBy: 'Noor',
        endedAt: null,
        endReason: 'spool',
      },
      { id: 's3', path: 'Mail/gone', kind: 'pipe', reason: 'r', side: 'old', end: 'mended' },
    ]
    const user = await open()
    expect(screen.getByText('Documents/<b>pipe</b>')).toBeInTheDocument()
    expect(screen.getByText(/waived by Noor/)).toHaveTextContent('spool')
    expect(screen.queryByText('Mail/gone')).toBeNull()
    await user.click(screen.getByRole('button', { name: 'Waive…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/Why is it not needed/), 'old spool')
    await user.click(within(dialog).getByRole('button', { name: 'Waive' }))
    expect(await within(dialog).findByRole('alert')).toHaveTextContent('more than spaces')
    expect(within(dialog).getByLabelText(/Why is it not needed/)).toHaveValue('old spool')
  })
})
