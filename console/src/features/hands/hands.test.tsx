import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { HandsPage } from './HandsPage'
import type { Hand } from './queries'

const hand = (tag: string, over: Partial<Hand> = {}): Hand => ({
  tag,
  host: `host of ${tag}`,
  version: '0.1.0',
  enrolledAt: '2026-12-01T08:00:00Z',
  heardAt: new Date().toISOString(),
  site: 'North Quay',
  swap: `spring-${tag}`,
  name: `Person of ${tag}`,
  order: null,
  ...over,
})
const page = async (role = 'coordinator') => {
  service.answers['GET /api/me'] = { name: 'kit', shown: 'Kit', role, sites: [] }
  showPage('/hands', HandsPage, ['/swaps/$swap'])
  await screen.findByText('KB-1')
}
const row = (tag: string) => screen.getByText(tag).closest('li') as HTMLElement

beforeEach(() => {
  service.reset()
  service.answers['GET /api/refreshes/spring/hands'] = {
    items: [
      hand('KB-1', { order: 'First trip' }),
      hand('KB-2', { order: 'Verify', heardAt: '2026-12-01T08:00:00Z' }),
      hand('KB-3', { heardAt: null, version: null }),
    ],
    next: null,
    total: 3,
  }
})
afterEach(() => cleanup())

describe('hands', () => {
  it('say what each is at, and which went silent over an order', async () => {
    await page()
    expect(row('KB-1').textContent).toMatch(/moving.*First trip.*heard of just now/)
    expect(row('KB-2').textContent).toMatch(/stopped.*Verify.*silent since/)
    expect(row('KB-3').textContent).toMatch(/not yet.*waits for orders.*silent since.*version not said/)
    expect(screen.getByText(/3 enrolled · 2 with an order/)).toBeTruthy()
  })

  it('are withdrawn, with what becomes of the order said first, and by no auditor', async () => {
    service.answers['DELETE /api/refreshes/spring/hands/KB-1'] = { hand: hand('KB-1'), codes: 0 }
    const user = userOfTest()
    await page()
    await user.click(screen.getByRole('button', { name: 'Withdraw the hand at KB-1' }))
    const dialog = await screen.findByRole('dialog')
    expect(dialog.textContent).toContain('at an order: first trip')
    await user.click(within(dialog).getByRole('button', { name: 'Withdraw it' }))
    expect(service.changes()).toHaveLength(1)
    cleanup()
    await page('auditor')
    expect(screen.queryByRole('button', { name: 'Withdraw the hand at KB-1' })).toBeNull()
  })

  it('get a code that is shown once; what was typed stays where it is refused', async () => {
    service.answers['POST /api/refreshes/spring/codes'] = new Refusal(403, 'KB-9 is of no swap at one of your sites.')
    const user = userOfTest()
    await page('technician')
    await user.click(screen.getByRole('button', { name: 'Code for a computer…' }))
    const dialog = await screen.findByRole('dialog')
    await user.type(within(dialog).getByLabelText(/Asset tag/), 'KB-9')
    await user.click(within(dialog).getByRole('button', { name: 'Make it' }))
    await within(dialog).findByText(/no swap at one of your sites/)
    expect((within(dialog).getByLabelText(/Asset tag/) as HTMLInputElement).value).toBe('KB-9')
    service.answers['POST /api/refreshes/spring/codes'] = { code: 'QK4M-AAAA-BBBB-CCCC', tag: 'KB-9', expires: '2026-12-04T08:00:00Z' }
    await user.click(within(dialog).getByRole('button', { name: 'Make it' }))
    expect(await within(dialog).findByText('QK4M-AAAA-BBBB-CCCC')).toBeTruthy()
  })
})
