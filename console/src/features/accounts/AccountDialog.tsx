import { MultiSelect, PasswordInput, Select, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { refreshesQuery } from '../session/queries'
import { sitesQuery } from '../swaps/queries'
import { type Account, usePutAccount } from './queries'

const roles = [
  { value: 'coordinator', label: 'Coordinator: plans, decides, signs the yard off' },
  { value: 'technician', label: 'Technician: works the swaps of some sites' },
  { value: 'auditor', label: 'Auditor: reads' },
  { value: 'person', label: "Person: one person's own page" },
]

/** Makes an account, or changes one: its password stays where none is typed. */
export function AccountDialog({ account, close }: { account: Account | null; close: () => void }) {
  const refresh = useRefresh()
  const put = usePutAccount()
  const sites = useQuery(sitesQuery(refresh.key))
  const refreshes = useQuery(refreshesQuery)
  const [name, setName] = useState(account?.name ?? '')
  const [shown, setShown] = useState(account?.shown ?? '')
  const [role, setRole] = useState(account?.role ?? 'technician')
  const [served, setServed] = useState<string[]>(account?.sites ?? [])
  const [reached, setReached] = useState<string[]>(account?.refreshes ?? [])
  const [person, setPerson] = useState(account?.person ?? '')
  const [password, setPassword] = useState('')
  const isPerson = role === 'person'
  const own = isPerson && reached.length === 0 ? [refresh.key] : reached
  const send = () =>
    put.mutate(
      {
        name: name.trim(),
        body: {
          shown: shown.trim(),
          role,
          password: password || null,
          sites: role === 'technician' ? served : [],
          refreshes: own,
          person: isPerson ? person.trim() : null,
        },
      },
      { onSuccess: close },
    )
  const known = sites.data?.map((s) => s.key) ?? []
  return (
    <FormDialog
      title={account ? `Account ${account.name}` : 'New account'}
      close={close}
      change={put}
      send={send}
      action={account ? 'Keep it so' : 'Make it'}
      ready={!!name.trim() && !!shown.trim() && (!!account || !!password) && (!isPerson || !!person.trim())}
    >
      {!account && (
        <TextInput
          label="Name to sign in by"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          autoComplete="off"
          maxLength={60}
          data-autofocus
        />
      )}
      <TextInput
        label="Name for people"
        description="It stands at what they do, in lists, papers and the ledger."
        value={shown}
        onChange={(e) => setShown(e.currentTarget.value)}
        maxLength={100}
        data-autofocus={account ? true : undefined}
      />
      <Select label="Role" data={roles} value={role} onChange={(value) => setRole(value ?? role)} allowDeselect={false} />
      {role === 'technician' && (
        <MultiSelect
          label="Sites"
          description="They work the swaps of these, and make codes for computers there."
          data={[...new Set([...known, ...served])]}
          value={served}
          onChange={setServed}
          searchable
          placeholder={served.length ? undefined : 'None yet'}
        />
      )}
      {isPerson && (
        <TextInput
          label="Whose own"
          description={`Their key in the roster of ${own[0]}.`}
          value={person}
          onChange={(e) => setPerson(e.currentTarget.value)}
          className="mono"
        />
      )}
      <MultiSelect
        label="Refreshes"
        description={isPerson ? 'The one that they are of.' : 'Left empty: all, and what is of the whole service.'}
        data={(refreshes.data ?? []).map((r) => ({ value: r.key, label: r.name }))}
        value={own}
        onChange={setReached}
        maxValues={isPerson ? 1 : undefined}
        placeholder={own.length ? undefined : 'All'}
      />
      <PasswordInput
        label={account ? 'Another password' : 'Password'}
        description={
          account
            ? 'Left empty: the one of now stays. With another, they are signed out everywhere.'
            : 'At least 12 characters; several words that do not belong together are easy to remember.'
        }
        value={password}
        onChange={(e) => setPassword(e.currentTarget.value)}
        autoComplete="new-password"
      />
    </FormDialog>
  )
}
