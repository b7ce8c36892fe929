import { screen, waitFor, within } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import type { Taken } from './queries'
import { RosterPage } from './RosterPage'

const taken = (over: Partial<Taken> = {}): Taken => ({
  dryRun: true,
  number: 0,
  rows: 2,
  added: 1,
  changed: 1,
  same: 0,
  gone: 0,
  changes: [
    { swap: 's-9', person: 'Rosa Winter', change: 'added', what: 'renew, North Quay' },
    { swap: 's-1', person: 'Ida Moreau', change: 'changed', what: 'was Ida; is Ida Moreau' },
  ],
  rejected: [],
  columns: [
    { head: 'Staff no', column: 'person', by: 'guess', samples: ['k1', 'k2'] },
    { head: 'Shelf', column: '', by: 'none', samples: ['KB-1'] },
  ],
  ...over,
})

/** A file goes over an XMLHttpRequest, for its progress: here one that asks the same stand-in as everything else. */
const sent: { path: string; query: URLSearchParams; name: string }[] = []
let answers: (Taken | Refusal | 'offline')[] = []
let held: ((url: URL) => Promise<void>) | undefined
class Sending {
  upload: { onprogress?: (e: { lengthComputable: boolean; loaded: number; total: number }) => void } = {}
  status = 0
  responseText = ''
  onload?: () => void
  onerror?: () => void
  url = new URL('http://yard.example')
  open(_: string, path: string) {
    this.url = new URL(path, 'http://yard.example')
  }
  setRequestHeader() {}
  send(file: File) {
    sent.push({ path: this.url.pathname, query: this.url.searchParams, name: file.name })
    const answer = answers.shift()
    setTimeout(async () => {
      this.upload.onprogress?.({ lengthComputable: true, loaded: 1, total: 2 })
      await held?.(this.url)
      if (answer === undefined || answer === 'offline') return this.onerror?.()
      this.status = answer instanceof Refusal ? answer.status : 200
      this.responseText = JSON.stringify(answer instanceof Refusal ? { detail: answer.detail } : answer)
      this.onload?.()
    })
  }
}
globalThis.XMLHttpRequest = Sending as unknown as typeof XMLHttpRequest

const base = '/api/refreshes/spring/roster'
const file = new File(['Staff no;Shelf\nk1;KB-1'], 'people.csv', { type: 'text/csv' })
let user: ReturnType<typeof userOfTest>

async function open(role = 'coordinator') {
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [] }
  service.answers[`GET ${base}/takings`] = [
    { number: 2, by: 'Kit', at: '2026-12-07T09:00:00Z', added: 3, changed: 0, whyNotUndone: null },
    { number: 1, by: 'Kit', at: '2026-12-06T09:00:00Z', added: 20, changed: 0, whyNotUndone: 'the swap of Ida Moreau has begun' },
  ]
  user = userOfTest()
  showPage('/roster', RosterPage, ['/plan', '/capacity'])
  await screen.findByText('Taken so far')
}

const choose = async () => user.upload(await screen.findByLabelText(/Choose a spreadsheet/), file)

beforeEach(() => {
  service.reset()
  sent.length = 0
  held = undefined
})

describe('a roster', () => {
  it('is looked at first, and taken only when somebody says so', async () => {
    answers = [taken(), taken({ dryRun: false, number: 3 })]
    await open()
    await choose()
    expect(await screen.findByText('Rosa Winter')).toBeVisible()
    expect(sent.map((s) => s.query.get('dryRun'))).toEqual(['true'])
    await user.click(screen.getByRole('button', { name: 'Take it' }))
    expect(await screen.findByText(/1 added, 1 changed, 0 the same/)).toBeVisible()
    expect(sent[1]).toMatchObject({ path: base, name: 'people.csv' })
    expect(sent[1]?.query.get('dryRun')).toBe('false')
  })

  it('says while it is read how far it is, and nothing of it afterwards', async () => {
    let name = ''
    let finish = () => {}
    held = (url) => {
      name = url.searchParams.get('name') ?? ''
      service.answers[`GET ${base}/progress/${name}`] = { stage: 'reading', rows: 12000, of: 20000 }
      return new Promise((resolve) => {
        finish = () => resolve()
      })
    }
    answers = [taken()]
    await open()
    await choose()
    expect(await screen.findByText(/Reading 20,000 rows/)).toHaveTextContent('60 %')
    finish()
    expect(await screen.findByText('Rosa Winter')).toBeVisible()
    expect(screen.queryByText(/Reading 20,000 rows/)).toBeNull()
  })

  it('has its columns matched by hand, and is looked at again with the match', async () => {
    service.answers[`PUT ${base}/columns`] = { shelf: 'old_tag' }
    answers = [taken(), taken({ columns: [{ head: 'Shelf', column: 'old_tag', by: 'hand', samples: ['KB-1'] }] })]
    await open()
    await choose()
    await user.selectOptions(await screen.findByLabelText("Read 'Shelf' as"), 'old_tag')
    expect(await screen.findByText('by hand')).toBeVisible()
    expect(service.changes()).toMatchObject([{ path: `${base}/columns`, body: { Shelf: 'old_tag' } }])
    expect(sent).toHaveLength(2)
  })

  it('with faults is not taken until the good rows alone are asked for', async () => {
    const faulty = taken({
      rejected: [{ line: 4, column: 'site', value: 'Nort', reason: 'this site is not in the refresh.', remedy: 'It has North.' }],
      gone: 2,
    })
    answers = [faulty, { ...faulty, dryRun: false }]
    await open()
    await choose()
    expect(await screen.findByText(/this site is not in the refresh/)).toHaveTextContent(
      'Line 4, site Nort: this site is not in the refresh. It has North.',
    )
    expect(screen.getByRole('button', { name: 'Take it' })).toBeDisabled()
    await user.click(screen.getByLabelText('Take the good rows without them'))
    await user.click(screen.getByLabelText(/Take out who is not in the file/))
    await user.click(screen.getByRole('button', { name: 'Take it' }))
    await waitFor(() => expect(sent).toHaveLength(2))
    expect([sent[1]?.query.get('skipFaulty'), sent[1]?.query.get('dropGone')]).toEqual(['true', 'true'])
  })

  it('that the service refuses, or that does not get through, stays chosen and can be tried again', async () => {
    answers = [new Refusal(422, 'This workbook cannot be read.'), 'offline', taken()]
    await open()
    await choose()
    expect(await screen.findByText('This workbook cannot be read.')).toBeVisible()
    await user.click(screen.getByRole('button', { name: 'Try again' }))
    expect(await screen.findByText(/The file is still chosen/)).toBeVisible()
    await user.click(screen.getByRole('button', { name: 'Try again' }))
    expect(await screen.findByText('Rosa Winter')).toBeVisible()
  })

  it('that changes nothing cannot be taken', async () => {
    answers = [taken({ added: 0, changed: 0, same: 2, changes: [] })]
    await open()
    await choose()
    expect(await screen.findByRole('button', { name: 'Nothing to take' })).toBeDisabled()
  })
})

describe('what was taken', () => {
  it('is undone while it can be, and else says why not', async () => {
    service.answers[`POST ${base}/takings/2/undo`] = {}
    await open()
    expect(screen.getByText('Not to be undone: the swap of Ida Moreau has begun.')).toBeVisible()
    const rows = within(screen.getByRole('region', { name: 'Taken so far' }))
    expect(rows.getAllByRole('button')).toHaveLength(1)
    await user.click(rows.getByRole('button', { name: 'Undo taking 2' }))
    await waitFor(() => expect(service.changes()).toMatchObject([{ method: 'POST', path: `${base}/takings/2/undo` }]))
  })

  it('is seen by who may not take one, and that is all', async () => {
    await open('auditor')
    expect(screen.getByText('Only a coordinator takes a roster.')).toBeVisible()
    expect(screen.queryByRole('button', { name: /Undo/ })).toBeNull()
  })
})
