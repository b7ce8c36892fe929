import { cleanup, screen, within } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { service } from '../../test-service'
import { TellDamage } from './TellDamage'

const post = 'POST /api/refreshes/spring/depots/cloud/damages'
const parcel = (name: string, beside: string) => ({ swap: `spring-${name}`, name, site: 'North Quay', beside, remedy: `Do ${beside}.` })

beforeEach(() => {
  service.reset()
  service.answers[post] = (asked: { body: unknown }) => ({
    depot: 'cloud',
    done: !(asked.body as { dryRun: boolean }).dryRun,
    words: 'Cloud may be damaged',
    parcels: [parcel('Ida Moreau', 'nowhere'), parcel('Una Berg', 'newComputer')],
    total: 2,
    copies: 0,
  })
})
afterEach(() => cleanup())

describe('a damaged depot', () => {
  it('says whose only copy it may be before it is said, and stays to be read afterwards', async () => {
    const user = userOfTest()
    showPage('/capacity', () => <TellDamage depots={[{ key: 'cloud', name: 'Cloud' }]} />)
    await user.click(await screen.findByRole('button', { name: 'One was damaged…' }))
    await user.type(screen.getByLabelText(/What happened/), 'a disk failed')
    await user.click(screen.getByRole('button', { name: 'See what it means' }))
    const only = await screen.findByRole('region', { name: 'No other copy is known' })
    expect(within(only).getByText('Ida Moreau')).toBeTruthy()
    expect(service.changes()).toMatchObject([{ body: { reason: 'a disk failed', dryRun: true } }])
    await user.click(screen.getByRole('button', { name: 'Say so' }))
    await screen.findByText('None of them counts as verified now')
    expect(screen.getByText('Ida Moreau')).toBeTruthy()
    expect(service.changes()).toHaveLength(2)
    await user.click(screen.getByRole('button', { name: 'Done' }))
    expect(service.changes()).toHaveLength(2)
  })
})
