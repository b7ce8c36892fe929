import { cleanup, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { LedgerPage } from './LedgerPage'

const entry = (number: number, over: object = {}) => ({
  number,
  json: '{}',
  sha256: 'a',
  words: `Entry ${number} said this`,
  by: 'Kit',
  account: 'kit',
  salt: 's',
  at: '2026-12-07T09:00:00Z',
  swap: null,
  name: null,
  ...over,
})
const ledger = 'GET /api/refreshes/spring/ledger'

describe('the history', () => {
  beforeEach(() => service.reset())
  afterEach(cleanup)

  it('has its newest entry first, older ones on a press, and says where words were erased', async () => {
    const pieces = [
      { items: [entry(3), entry(2, { words: '', swap: 'spring-0001' })], next: '2', total: 3 },
      { items: [entry(1)], next: null, total: 3 },
    ]
    service.answers[ledger] = () => pieces.shift()
    showPage('/history', () => <LedgerPage search={{}} />, ['/swaps/$swap'])
    expect(await screen.findByText('Entry 3 said this')).toBeInTheDocument()
    expect(screen.getByText(/was erased when its person asked/)).toBeInTheDocument()
    await userOfTest().click(screen.getByRole('button', { name: 'Show older ones' }))
    expect(await screen.findByText('Entry 1 said this')).toBeInTheDocument()
    expect(screen.queryByRole('button', { name: 'Show older ones' })).toBeNull()
  })

  it.each([
    [[], 'It is whole'],
    [[{ number: 2, what: 'its words are not its own.' }], '1 fault'],
  ])('is proved only when somebody asks, and a fault is named: %j', async (faults, words) => {
    service.answers[ledger] = { items: [], next: null, total: 0 }
    service.answers['GET /api/refreshes/spring/ledger/check'] = { number: 9, sha256: 'abc', faults }
    showPage('/history', () => <LedgerPage search={{}} />)
    await screen.findByText('Nothing of that kind happened.')
    expect(service.asked.some((a) => a.path.endsWith('/check'))).toBe(false)
    await userOfTest().click(screen.getByRole('button', { name: 'Prove it' }))
    expect(await screen.findByRole('heading', { name: new RegExp(words) })).toBeInTheDocument()
    for (const fault of faults) expect(screen.getByText(new RegExp(`Entry ${fault.number}: ${fault.what}`))).toBeInTheDocument()
  })
})
