import { cleanup, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Schemas, SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { AccountTable } from './AccountTable'
import { Snags } from './Snags'

const amount = (files: number) => ({ files, bytes: files * 10 })
const folder = {
  folder: 'Pictures',
  old: amount(43),
  inDepot: amount(43),
  leftOut: amount(0),
  waived: amount(0),
  open: amount(0),
  waivedAtNew: amount(0),
  openAtNew: amount(0),
  onNew: null,
  unexplained: 0,
}

const doubted = (doubt: Schemas['SnagSeen']['doubt'], end = 'open') =>
  ({
    swap: { id: 'spring-1', isBusy: false, kind: 'renew' },
    parcel: { trips: 1 },
    account: [folder],
    total: folder,
    snags: [
      {
        id: 's1',
        swap: 'spring-1',
        path: '(all of it)',
        kind: 'sourceDoubted',
        side: 'old',
        bytes: 0,
        reason: 'Nothing is left of Pictures (43 files). Is it mounted?',
        countsAsFile: false,
        end,
        endedBy: end === 'open' ? null : 'kit',
        endReason: end === 'open' ? null : 'she moved them',
        at: '2026-12-07T09:00:00Z',
        endedAt: null,
        doubt,
      },
    ],
  }) as unknown as SwapSeen

const open = async (seen: SwapSeen) => {
  showPage('/swap', () => (
    <>
      <AccountTable seen={seen} />
      <Snags seen={seen} works />
    </>
  ))
  await screen.findByText('Every file accounted for')
  return userOfTest()
}

beforeEach(() => service.reset())
afterEach(() => cleanup())

describe('a source in doubt', () => {
  it('does not call its files explained', async () => {
    await open(doubted('foldersGone'))
    expect(screen.queryByText(/explained/)).toBeNull()
    expect(screen.getByText('as trip 1 left it: the old computer is in doubt')).toBeInTheDocument()
  })

  it('is answered with a reason, of what is gone only that it was deleted', async () => {
    service.answers['POST /api/snags/s1/source'] = {}
    const user = await open(doubted('foldersGone'))
    expect(screen.queryByRole('button', { name: 'Waive…' })).toBeNull()
    await user.click(screen.getByRole('button', { name: 'Say what it is…' }))
    expect(screen.queryByRole('radio', { name: /It moved/ })).toBeNull()
    await user.type(screen.getByRole('textbox', { name: /How do you know/ }), 'she moved them')
    await user.click(screen.getByRole('button', { name: 'Answer' }))
    expect(service.changes()).toMatchObject([{ path: '/api/snags/s1/source', body: { verdict: 'deleted', reason: 'she moved them' } }])
  })

  it('asks what happened where files are there and are others, and shows the answer afterwards', async () => {
    const user = await open(doubted('otherFiles'))
    await user.click(screen.getByRole('button', { name: 'Say what it is…' }))
    expect(screen.getByRole('button', { name: 'Answer' })).toBeDisabled()
    expect(screen.getByRole('radio', { name: /It moved/ })).toBeInTheDocument()
    cleanup()
    await open(doubted('otherFiles', 'waived'))
    expect(screen.getByText(/answered by kit/)).toBeInTheDocument()
  })
})
