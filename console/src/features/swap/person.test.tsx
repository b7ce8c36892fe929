import { cleanup, screen, waitFor, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { SwapSeen } from '../../api/client'
import { showPage, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { PersonCard } from './PersonCard'

const kept = (over: object = {}) => {
  service.answers['GET /api/swaps/spring-0001/person/kept'] = {
    name: 'Ida Moreau',
    swaps: ['spring-0001'],
    parts: [{ kind: 'notices', count: 3 }],
    erasesOn: null,
    missing: [],
    erasedAt: null,
    ...over,
  }
}
const link = (state: string, minute: number) => ({
  state,
  madeBy: 'Kit',
  madeAt: `2026-12-07T09:0${minute}:00Z`,
  expires: '2026-12-14T09:00:00Z',
  openedAt: null,
  seenAt: null,
})
const open = async () => {
  showPage('/card', () => <PersonCard seen={{ swap: { id: 'spring-0001', name: 'Ida Moreau' } } as unknown as SwapSeen} />)
  await userOfTest().click(await screen.findByRole('heading', { name: 'Links, and what is kept' }))
  await screen.findByText('What is kept')
}

describe('what is kept about a person', () => {
  beforeEach(() => {
    service.reset()
    service.answers['GET /api/swaps/spring-0001/person-links'] = [link('open', 1), link('waits', 2), link('expired', 3)]
  })
  afterEach(cleanup)

  it('is erased only with a reason', async () => {
    kept()
    service.answers['POST /api/swaps/spring-0001/person/erasure'] = {}
    const user = userOfTest()
    await open()
    await user.click(await screen.findByRole('button', { name: 'Erase it…' }))
    const dialog = await screen.findByRole('dialog')
    expect(within(dialog).getByRole('button', { name: 'Erase it' })).toBeDisabled()
    await user.type(within(dialog).getByLabelText(/Why/), 'asked for it')
    await user.click(within(dialog).getByRole('button', { name: 'Erase it' }))
    await waitFor(() => expect(service.changes().map((c) => c.body)).toEqual([{ reason: 'asked for it' }]))
  })

  it('stays while something of it is needed, and says what', async () => {
    kept({ missing: ['The parcel is still held.'] })
    await open()
    expect(await screen.findByRole('button', { name: 'Erase it…' })).toBeDisabled()
    expect(screen.getByText(/The parcel is still held\./)).toBeInTheDocument()
  })

  it('has links of which those that still open are withdrawn together', async () => {
    kept()
    service.answers['DELETE /api/swaps/spring-0001/person-links'] = { links: 2 }
    await open()
    await userOfTest().click(await screen.findByRole('button', { name: 'Withdraw all 2' }))
    await waitFor(() => expect(service.changes()).toHaveLength(1))
  })
})
