import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { ChecklistsPage } from './ChecklistsPage'

const yaml = `name: Change of computer
kinds: [renew]
steps:
  - key: told
    phase: before
    title: Told
    kind: confirmation
  - key: printer
    phase: swap
    title: Printer
    kind: choice
    options: [prints, later]
  - key: again
    phase: swap
    title: Once more
    kind: tick
    when:
      answers:
        printer: later
`
const template = { name: 'Change of computer', version: 3, steps: 3, yaml, at: '2026-12-01T08:00:00Z', kinds: ['renew'] }
const preview = { faults: [] as { line: number; words: string }[], name: '', kind: 'renew', kinds: ['renew'], steps: [], conditions: {} }
const base = '/api/refreshes/spring'

async function open(role = 'coordinator') {
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [], refreshes: [] }
  showPage('/checklists', () => <ChecklistsPage />)
  await screen.findByRole('button', { name: /^Printer/ })
  return userOfTest()
}
const kept = () => service.changes().filter((c) => c.path === `${base}/templates`)

describe('checklists', () => {
  beforeEach(() => {
    localStorage.clear()
    service.reset()
    service.answers[`GET ${base}/templates`] = [template]
    service.answers[`GET ${base}/templates/uses`] = []
    service.answers[`GET ${base}/templates/choices`] = {
      sites: [{ key: 'north', name: 'North Quay' }],
      rooms: ['Hall'],
      departments: [],
      roles: [],
      oldModels: [],
      newModels: [],
      facts: [],
    }
    service.answers[`POST ${base}/template-preview`] = preview
  })
  afterEach(cleanup)

  it('changes a step on its card, keeps it as made from the version that was seen, and loses nothing that was refused', async () => {
    const user = await open()
    await user.click(screen.getByRole('button', { name: /^Printer/ }))
    fireEvent.change(screen.getByLabelText('What is to be done'), { target: { value: 'Printer prints' } })
    service.answers[`POST ${base}/templates`] = new Refusal(409, 'Somebody kept version 4 meanwhile.')
    await waitFor(() => expect(screen.getByRole('button', { name: 'Keep as a new version' })).toBeEnabled())
    await user.click(screen.getByRole('button', { name: 'Keep as a new version' }))
    expect(await screen.findByText(/Somebody kept version 4/)).toBeInTheDocument()
    expect(kept()[0]?.body).toEqual({ yaml: yaml.replace('title: Printer', 'title: Printer prints'), since: 3 })
    expect(screen.getByLabelText('What is to be done')).toHaveValue('Printer prints')
    await user.click(screen.getByRole('button', { name: 'Undo' }))
    expect(screen.getByLabelText('What is to be done')).toHaveValue('Printer')
  })

  it('shows a fault on the card that it belongs to, and nothing is kept meanwhile', async () => {
    service.answers[`POST ${base}/template-preview`] = { ...preview, faults: [{ line: 11, words: 'A step needs two answers.' }] }
    const user = await open()
    const fault = await screen.findByText('A step needs two answers.')
    expect(fault.closest('.step-card')).toHaveTextContent('Printer')
    await user.click(screen.getByRole('radio', { name: 'Text' }))
    await user.click(screen.getByRole('button', { name: 'Line 11' }))
    const text = screen.getByLabelText<HTMLTextAreaElement>('Checklist as YAML')
    expect(text.value.slice(text.selectionStart, text.selectionEnd)).toBe('    kind: choice')
    expect(screen.getByRole('button', { name: 'Keep as a new version' })).toBeDisabled()
  })

  it('asks before a step goes that a later one depends on', async () => {
    const user = await open()
    await user.click(screen.getByRole('button', { name: /^Printer/ }))
    await user.click(screen.getByRole('button', { name: 'Take this step out' }))
    expect(screen.getByRole('alert')).toHaveTextContent('Asked for by: Once more.')
    await user.click(screen.getByRole('button', { name: 'Take it out all the same' }))
    expect(screen.queryByRole('button', { name: /^Printer/ })).not.toBeInTheDocument()
  })

  it('names sites in conditions, and writes their keys', async () => {
    const user = await open()
    await user.click(screen.getByRole('button', { name: /^Told/ }))
    await user.click(screen.getByText('Where it is needed'))
    await user.click(screen.getByRole('combobox', { name: 'Sites', hidden: true }))
    await user.click(await screen.findByRole('option', { name: 'North Quay', hidden: true }))
    await user.click(screen.getByRole('radio', { name: 'Text' }))
    expect(screen.getByLabelText<HTMLTextAreaElement>('Checklist as YAML').value).toContain('when:\n      site: [north]')
  })

  it('moves those that are chosen, with counts, until none is left', async () => {
    service.answers[`GET ${base}/templates/uses`] = [{ template: template.name, version: 2, untouched: 150, begun: 4, signed: 1 }]
    let left = 150
    service.answers[`POST ${base}/templates/moves`] = ({ body }: { body: { dryRun: boolean; begunToo: boolean } }) => {
      const all = body.begunToo ? 154 : 150
      const some = body.dryRun ? all : Math.min(100, left)
      if (!body.dryRun) left -= some
      const steps = [{ key: 'x', title: 'Printer', what: 'asks-anew', swaps: some, dealtWith: body.begunToo ? 4 : 0 }]
      return { template: template.name, version: 3, swaps: some, left: body.dryRun ? 0 : left, notFor: 2, steps, done: !body.dryRun }
    }
    const user = await open()
    await user.click(screen.getByRole('button', { name: '154 swaps have an older version' }))
    const dialog = within(await screen.findByRole('dialog'))
    await user.click(dialog.getByRole('radio', { name: /under way, too: 4 more/ }))
    expect(await dialog.findByText(/For 4 what was said about it no longer counts/)).toBeInTheDocument()
    expect(dialog.getByText(/1 swap is signed, and keeps what was signed/)).toBeInTheDocument()
    await user.click(dialog.getByRole('radio', { name: /nothing was done yet: 150/ }))
    await user.click(await dialog.findByRole('button', { name: 'Move 150 swaps' }))
    await waitFor(() => expect(left).toBe(0))
    expect(service.changes().filter((c) => c.path.endsWith('/moves') && !(c.body as { dryRun: boolean }).dryRun)).toHaveLength(2)
  })

  it('lets a technician read it only', async () => {
    const user = await open('technician')
    await user.click(screen.getByRole('button', { name: /^Printer/ }))
    expect(screen.getByLabelText('What is to be done')).toBeDisabled()
    expect(screen.queryByRole('button', { name: /Keep as|Move Printer|Take this step out|Add step/ })).not.toBeInTheDocument()
  })
})
