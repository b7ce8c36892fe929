import { Button, PasswordInput, TextInput } from '@mantine/core'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, type Me, type Schemas, take } from '../../api/client'
import { leaving } from '../../shared/leaving'
import { Mark } from '../../shell/Mark'
import { doorsQuery, meQuery } from './queries'
import { SecondStep } from './SecondStep'

type Wanted = Schemas['SecondWanted']

/** Why somebody comes back from their organisation without being let in. */
const refusals: Record<string, string> = {
  'organisation.no-group': 'Your organisation says who you are, and none of your groups there opens anything here. Ask a coordinator.',
  'account.disabled': 'Your account is disabled. Ask a coordinator.',
}
const refusal = () => {
  const code = new URLSearchParams(window.location.search).get('refused')
  return code && (refusals[code] ?? 'Your organisation could not sign you in. Try again; if it stays so, tell a coordinator.')
}

export function SignInPage() {
  const queries = useQueryClient()
  const doors = useQuery(doorsQuery)
  const [refused] = useState(refusal)
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const [wanted, setWanted] = useState<Wanted | null>(null)
  const isIn = (me: Me) => {
    leaving.over()
    // Why nobody was let in stays in no address.
    if (refused) window.history.replaceState(null, '', window.location.pathname)
    queries.setQueryData(meQuery.queryKey, me)
  }
  const signIn = useMutation({
    mutationFn: () => take(api.POST('/api/sessions', { body: { name, password } })) as Promise<Me | Wanted>,
    onSuccess: (answer) => ('ticket' in answer ? setWanted(answer) : isIn(answer)),
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    signIn.mutate()
  }
  if (wanted) return <SecondStep wanted={wanted} isIn={isIn} again={signIn} back={() => setWanted(null)} />
  return (
    <main className="sign-in">
      <form onSubmit={submit} className="card">
        <Mark />
        <h1>Sign in</h1>
        {refused && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {refused}
          </p>
        )}
        <TextInput
          label="Name"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          autoComplete="username"
          autoFocus
          required
          withAsterisk={false}
        />
        <PasswordInput
          label="Password"
          value={password}
          onChange={(e) => setPassword(e.currentTarget.value)}
          autoComplete="current-password"
          required
        />
        {signIn.isError && (
          <p role="alert" className="problem">
            <span aria-hidden="true">■</span> {signIn.error.message}
          </p>
        )}
        <Button type="submit" loading={signIn.isPending} fullWidth>
          Sign in
        </Button>
        {doors.data?.path && (
          <Button
            component="a"
            href={`${doors.data.path}?to=${encodeURIComponent(window.location.pathname)}`}
            variant="default"
            fullWidth
            onClick={() => leaving.over()}
          >
            Sign in with {doors.data.organisation}
          </Button>
        )}
      </form>
    </main>
  )
}
