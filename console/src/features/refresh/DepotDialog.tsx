import { PasswordInput, Radio, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FormDialog } from '../parcel/FormDialog'
import { worldQuery } from '../plan/queries'
import { useSetDepot } from './queries'

type Way = 'built-in' | 'folder' | 'web' | 'ssh'

const ways: Record<Way, { label: string; help: string; address?: string; example?: string }> = {
  'built-in': { label: "This service's own room", help: 'Files lie on the disk of the service. Nothing else is needed.' },
  folder: {
    label: 'A folder or a mounted share',
    help: 'Under the same path at each computer.',
    address: 'Path',
    example: '/mnt/staging',
  },
  web: {
    label: 'A share by the web (WebDAV)',
    help: 'A cloud or a server with a name and a password.',
    address: 'Address',
    example: 'https://cloud.kestrelbay.example/staging',
  },
  ssh: {
    label: 'A server by SSH',
    help: 'With a name, and a password or the key that hands have.',
    address: 'Address',
    example: 'sftp://staging@files.kestrelbay.example/staging',
  },
}

/** A depot by what it is; it is tried as soon as it is set, and what came of it is said. */
export function DepotDialog({ refresh, close }: { refresh: string; close: () => void }) {
  const world = useQuery(worldQuery(refresh))
  const [way, setWay] = useState<Way>('built-in')
  const [name, setName] = useState('')
  const [address, setAddress] = useState('')
  const [user, setUser] = useState('')
  const [password, setPassword] = useState('')
  const [made, setMade] = useState<string | null>(null)
  const set = useSetDepot(refresh, world.data?.depots.map((d) => d.key) ?? [])
  const kind = ways[way]
  const wanted = way === 'built-in' ? 'built-in' : address.trim()
  // Set anew by this form it would lose what else was set for it.
  const there = made === null ? world.data?.depots.find((d) => d.address === wanted) : undefined
  const known = user.trim() || password
  const send = () => {
    if (set.data && !set.data.trouble) return close()
    set.mutate(
      {
        key: made,
        name: name.trim() || kind.label,
        address: wanted,
        capacityBytes: null,
        dailyBytes: null,
        holdDays: null,
        endsOn: null,
        sealTo: null,
        limits: null,
        access: known ? { user: user.trim() || null, password: password || null, privateKey: null, hostKey: null } : null,
        copyTo: null,
      },
      { onSuccess: (depot) => setMade(depot.key) },
    )
  }
  const change = (put: () => void) => {
    put()
    set.reset()
  }
  return (
    <FormDialog
      title="Where files go on their way"
      close={close}
      change={set}
      send={send}
      action={!set.data ? 'Set it, and try it' : set.data.trouble ? 'Try again' : 'Done'}
      ready={!!wanted && !there}
    >
      <Radio.Group label="What is it?" value={way} onChange={(value) => change(() => setWay(value as Way))}>
        <div className="stack tight">
          {Object.entries(ways).map(([key, w]) => (
            <Radio key={key} value={key} label={w.label} description={w.help} />
          ))}
        </div>
      </Radio.Group>
      {kind.address && (
        <TextInput
          label={kind.address}
          placeholder={kind.example}
          value={address}
          onChange={(e) => {
            const { value } = e.currentTarget
            change(() => setAddress(value))
          }}
          required
        />
      )}
      {(way === 'web' || way === 'ssh') && (
        <div className="side-by-side">
          <TextInput
            label="Name there"
            value={user}
            autoComplete="off"
            onChange={(e) => {
              const { value } = e.currentTarget
              change(() => setUser(value))
            }}
          />
          <PasswordInput
            label="Password"
            value={password}
            autoComplete="new-password"
            onChange={(e) => {
              const { value } = e.currentTarget
              change(() => setPassword(value))
            }}
          />
        </div>
      )}
      <TextInput
        label="What you call it"
        placeholder={kind.label}
        value={name}
        onChange={(e) => {
          const { value } = e.currentTarget
          change(() => setName(value))
        }}
      />
      <p className="soft">A bound, a second copy, sealed parcels, hours in which little may be carried: on the page Capacity.</p>
      {there && <p role="status">{there.name} has that address already. On the page Capacity it can be changed.</p>}
      {set.data && (
        <p role="status" className={set.data.trouble ? 'sign-stopped' : 'sign-done'}>
          <span aria-hidden="true">{set.data.trouble ? '■' : '✓'}</span> {set.data.trouble ?? set.data.tried ?? 'It is set.'}
        </p>
      )}
    </FormDialog>
  )
}
