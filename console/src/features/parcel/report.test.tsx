import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas } from '../../api/client'
import { showPage } from '../../test-page'
import { service } from '../../test-service'
import { ReportPage } from './ReportPage'

const amount = (files: number) => ({ files, bytes: files * 10 })
const folder = (name: string, old: number, leftOut: number, open: number): Schemas['FolderAccount'] => ({
  folder: name,
  old: amount(old),
  inDepot: amount(old - leftOut - open),
  leftOut: amount(leftOut),
  waived: amount(0),
  open: amount(open),
  onNew: null,
  openAtNew: amount(0),
  waivedAtNew: amount(0),
  carryAddsUp: true,
  restoreAddsUp: true,
  unexplained: open,
})
const snag = (path: string, end: string): Schemas['SnagSeen'] => ({
  id: path,
  swap: 'spring-1',
  path,
  kind: 'pipe',
  side: 'old',
  bytes: 0,
  reason: 'It has no content.',
  countsAsFile: true,
  end,
  endedBy: end === 'waived' ? 'kit' : null,
  endReason: end === 'waived' ? 'not needed' : null,
  at: '2026-12-07T09:00:00Z',
  endedAt: null,
})
const report: Schemas['ParcelReport'] = {
  swap: 'spring-1',
  name: 'Ida Moreau',
  refresh: 'Spring',
  oldTag: 'KB-1',
  newTag: null,
  at: '2026-12-07T09:00:00Z',
  stagedAt: null,
  restoredAt: null,
  account: [folder('.', 3, 0, 1), folder('Documents', 20, 4, 0)],
  total: folder('Total', 23, 4, 1),
  stayed: [{ what: '', files: amount(4), reason: 'temporary files', by: null }],
  waived: [snag('Documents/queue', 'waived')],
  open: [snag('lock<script>', 'open')],
  programs: [
    { name: 'Berth Planner', version: '6.2', offer: 'Berth Planner 7', where: 'program shop', isLicenceBound: true },
    { name: 'Rota Desk', version: null, offer: null, where: null, isLicenceBound: false },
  ],
  hold: { until: '2026-12-21', missing: [], depotEnds: null, alarm: null, purgedAt: null },
  words: '18 files of 23 are in the depot, and 1 is still open.',
}

const open = async () => {
  showPage('/', () => <ReportPage id="spring-1" />, ['/swaps', '/swaps/$swap'])
  await screen.findByText('What came along')
}

beforeEach(() => {
  service.reset()
  service.answers['GET /api/swaps/spring-1/report'] = report
})
afterEach(() => cleanup())

describe('the report', () => {
  it('names each file that was given up or is open, as text, with who and why', async () => {
    await open()
    expect(screen.getByText('lock<script>')).toBeTruthy()
    expect(screen.getByText('not needed (kit)')).toBeTruthy()
    expect(screen.getByText(/and 1 is still open/).className).toContain('sign-stopped')
    const stayed = screen.getByRole('region', { name: 'What stayed behind' })
    expect(within(stayed).getByText('temporary files')).toBeTruthy()
    expect(within(stayed).getByText('a rule')).toBeTruthy()
  })

  it('says what to install, what to sign out of, and what nobody offers', async () => {
    await open()
    const programs = screen.getByRole('region', { name: 'Programs' })
    expect(within(programs).getByText(/sign out of it on the old computer first/)).toBeTruthy()
    expect(within(programs).getByText('not in the catalogue')).toBeTruthy()
    expect(screen.getByText('1 of 2 are in the catalogue')).toBeTruthy()
  })

  it('leads to the table and the paper of this very swap', async () => {
    await open()
    expect(screen.getByRole('link', { name: 'Paper (PDF)' }).getAttribute('href')).toBe('/api/swaps/spring-1/report.pdf')
    expect(screen.getByRole('link', { name: 'Table (CSV)' }).getAttribute('href')).toBe('/api/swaps/spring-1/report.csv')
  })
})
