/** Passkeys as the browser knows them (Web Authentication, level 3). */

export type PasskeyJson = Record<string, unknown>

/** Why this browser has no passkeys here; null: it has. */
export const whyNoPasskeys = () =>
  !window.isSecureContext
    ? 'Passkeys need this page to come over https.'
    : typeof PublicKeyCredential === 'undefined' || !('parseCreationOptionsFromJSON' in PublicKeyCredential)
      ? 'This browser is too old for passkeys.'
      : null

/** Makes one from the service's options. */
export const makePasskey = (options: unknown) =>
  asked(() =>
    navigator.credentials.create({
      publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(options as PublicKeyCredentialCreationOptionsJSON),
    }),
  )

/** Shows one. */
export const showPasskey = (options: unknown) =>
  asked(() =>
    navigator.credentials.get({
      publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(options as PublicKeyCredentialRequestOptionsJSON),
    }),
  )

async function asked(ask: () => Promise<Credential | null>): Promise<PasskeyJson> {
  const why = whyNoPasskeys()
  if (why) throw new Error(why)
  let answer: Credential | null
  try {
    answer = await ask()
  } catch (refused) {
    const name = refused instanceof DOMException ? refused.name : ''
    throw new Error(
      name === 'InvalidStateError'
        ? 'This device has a passkey of this account already.'
        : name === 'SecurityError'
          ? 'Passkeys do not work at this address. Open the service by its name.'
          : 'No passkey came of it: it was turned away, or took too long. Try again.',
    )
  }
  if (!answer) throw new Error('No passkey came of it. Try again.')
  return (answer as PublicKeyCredential).toJSON() as PasskeyJson
}
