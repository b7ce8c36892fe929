import { Button, PasswordInput, TextInput } from '@mantine/core'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { api, take } from '../../api/client'
import { leaving } from '../../shared/leaving'
import { Mark } from '../../shell/Mark'
import { meQuery } from './queries'

export function SignInPage() {
  const queries = useQueryClient()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const signIn = useMutation({
    mutationFn: () => take(api.POST('/api/sessions', { body: { name, password } })),
    onSuccess: (me) => {
      leaving.over()
      queries.setQueryData(meQuery.queryKey, me)
    },
  })
  const submit = (event: FormEvent) => {
    event.preventDefault()
    signIn.mutate()
  }
  return (
    <main className="sign-in">
      <form onSubmit={submit} className="card">
        <Mark />
        <h1>Sign in</h1>
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
      </form>
    </main>
  )
}
