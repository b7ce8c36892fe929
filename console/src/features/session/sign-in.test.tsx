import { cleanup, screen } from '@testing-library/react'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { showPage, userOfTest } from '../../test-page'
import { Refusal, service } from '../../test-service'
import { SignInPage } from './SignInPage'

const wanted = { ticket: 'sealed', passkey: { challenge: 'abc' }, codesLeft: 7 }

const signIn = async () => {
  const user = userOfTest()
  await user.type(await screen.findByLabelText('Name'), 'kit')
  await user.type(screen.getByLabelText(/^Password/), 'kestrel-bay-ferries')
  await user.click(screen.getByRole('button', { name: 'Sign in' }))
  return user
}

/** A browser that has passkeys, and shows one. */
const withPasskeys = (show: () => Promise<unknown>) => {
  vi.stubGlobal('isSecureContext', true)
  vi.stubGlobal('PublicKeyCredential', { parseCreationOptionsFromJSON: (o: unknown) => o, parseRequestOptionsFromJSON: (o: unknown) => o })
  vi.stubGlobal('navigator', Object.assign(Object.create(navigator), { credentials: { get: show } }))
}

beforeEach(() => {
  service.reset()
  service.answers['GET /api/sessions/doors'] = { organisation: null, path: null }
  service.answers['POST /api/sessions'] = wanted
  service.answers['POST /api/sessions/second'] = {
    name: 'kit',
    shown: 'Kit',
    role: 'coordinator',
    sites: [],
    refreshes: [],
    isSecond: true,
  }
})
afterEach(() => {
  cleanup()
  vi.unstubAllGlobals()
  window.history.replaceState(null, '', '/')
})

describe('signing in', () => {
  it('asks for the passkey after the password, and sends what the browser showed', async () => {
    withPasskeys(async () => ({ toJSON: () => ({ id: 'mine' }) }))
    showPage('/', SignInPage)
    const user = await signIn()
    await user.click(await screen.findByRole('button', { name: 'Show my passkey' }))
    await vi.waitFor(() => expect(service.changes()).toHaveLength(2))
    expect(service.changes()[1]?.body).toEqual({ ticket: 'sealed', passkey: { id: 'mine' }, code: null })
  })

  it('says it where none was shown, and takes a recovery code in its place', async () => {
    withPasskeys(() => Promise.reject(new DOMException('no', 'NotAllowedError')))
    showPage('/', SignInPage)
    const user = await signIn()
    await user.click(await screen.findByRole('button', { name: 'Show my passkey' }))
    expect((await screen.findByRole('alert')).textContent).toContain('turned away, or took too long')
    await user.click(screen.getByRole('button', { name: /a recovery code/ }))
    service.answers['POST /api/sessions/second'] = new Refusal(401, 'That is no recovery code that is left.', 'second.wrong')
    await user.type(screen.getByLabelText('One of your codes'), 'BCDF-GHJK-MNPQ')
    expect(screen.getByText(/7 left/)).toBeTruthy()
    await user.click(screen.getByRole('button', { name: 'Sign in' }))
    expect((await screen.findByRole('alert')).textContent).toContain('no recovery code that is left')
    expect(screen.getByLabelText<HTMLInputElement>('One of your codes').value).toBe('BCDF-GHJK-MNPQ')
  })

  it('begins again without a word lost where the five minutes are over', async () => {
    withPasskeys(async () => ({ toJSON: () => ({ id: 'mine' }) }))
    service.answers['POST /api/sessions/second'] = new Refusal(
      409,
      'That took too long, or was answered already. Begin again.',
      'second.late',
    )
    showPage('/', SignInPage)
    const user = await signIn()
    await user.click(await screen.findByRole('button', { name: 'Show my passkey' }))
    await user.click(await screen.findByRole('button', { name: 'Begin again' }))
    await vi.waitFor(() => expect(service.changes().filter((c) => c.path === '/api/sessions')).toHaveLength(2))
    expect(await screen.findByRole('button', { name: 'Show my passkey' })).toBeTruthy()
  })

  it('goes through the organisation where there is one, and says why somebody came back', async () => {
    service.answers['GET /api/sessions/doors'] = { organisation: 'Kestrel Bay', path: '/organisation/staff' }
    window.history.replaceState(null, '', '/plan?refused=organisation.no-group')
    showPage('/', SignInPage)
    const door = await screen.findByRole('link', { name: 'Sign in with Kestrel Bay' })
    expect(door.getAttribute('href')).toBe('/organisation/staff?to=%2Fplan')
    expect(screen.getByRole('alert').textContent).toContain('none of your groups')
  })
})
