import { Button, TextInput } from '@mantine/core'
import { type UseMutationResult, useMutation } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, type Me, type Schemas, take } from '../../api/client'
import { showPasskey, whyNoPasskeys } from '../../shared/passkey'
import { Mark } from '../../shell/Mark'

type Wanted = Schemas['SecondWanted']
type Props = {
  wanted: Wanted
  isIn: (me: Me) => void
  /** Asks for the password's answer anew, as one counts for five minutes. */
  again: UseMutationResult<Me | Wanted, Error, void>
  back: () => void
}

/** After the password: a passkey, or a recovery code in its place. */
export function SecondStep({ wanted, isIn, again, back }: Props) {
  const why = whyNoPasskeys()
  const [code, setCode] = useState('')
  const [byCode, setByCode] = useState(!!why)
  const show = useMutation({
    mutationFn: async () =>
      take(
        api.POST('/api/sessions/second', {
          body: {
            ticket: wanted.ticket,
            passkey: byCode ? null : ((await showPasskey(wanted.passkey)) as never),
            code: byCode ? code : null,
          },
        }),
      ),
    onSuccess: isIn,
  })
  const isLate = show.error && 'code' in show.error && show.error.code === 'second.late'
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (isLate) again.mutate(undefined, { onSuccess: () => show.reset() })
    else show.mutate()
  }
  return (
    <main className="sign-in">
      <form onSubmit={submit} className="card">
        <Mark />
        <h1>{byCode ? 'Recovery code' : 'Your passkey'}</h1>
        {byCode ? (
          <TextInput
            label="One of your codes"
            description={`${wanted.codesLeft} left. Each opens once.`}
            value={code}
            onChange={(e) => setCode(e.currentTarget.value)}
            autoComplete="one-time-code"
            className="mono"
            autoFocus
            required
            withAsterisk={false}
          />
        ) : (
          <p className="soft">The password was right. Now show the passkey of this account: your device asks for it.</p>
        )}
        {why && <p className="soft">{why}</p>}
        {show.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {show.error.message}
          </p>
        )}
        <Button type="submit" loading={show.isPending || again.isPending} fullWidth autoFocus={!byCode}>
          {isLate ? 'Begin again' : byCode ? 'Sign in' : 'Show my passkey'}
        </Button>
        <div className="actions">
          {!why && (
            <Button
              variant="subtle"
              size="compact-sm"
              onClick={() => {
                setByCode(!byCode)
                show.reset()
              }}
            >
              {byCode ? 'With my passkey' : 'I have it not here: a recovery code'}
            </Button>
          )}
          <Button variant="subtle" size="compact-sm" onClick={back}>
            Back
          </Button>
        </div>
      </form>
    </main>
  )
}
