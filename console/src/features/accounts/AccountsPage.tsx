import { Button, Menu, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Sign } from '../../shared/Sign'
import { Coming, Empty, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import { FormDialog } from '../parcel/FormDialog'
import { meQuery } from '../session/queries'
import { AccountDialog } from './AccountDialog'
import { GroupsCard } from './GroupsCard'
import { type Account, accountsQuery, type End, latelyQuery, useEndAccount } from './queries'

/** Who gets in, how far, and where they are signed in. */
export function AccountsPage() {
  const list = useQuery(accountsQuery)
  const me = useQuery(meQuery)
  const [find, setFind] = useState('')
  const [edits, setEdits] = useState<Account | 'new' | null>(null)
  const sought = find.trim().toLowerCase()
  const all = list.data ?? []
  const shown = all.filter((a) => `${a.name} ${a.shown} ${a.role} ${a.sites.join(' ')}`.toLowerCase().includes(sought))
  const inUse = all.filter((a) => !a.disabledAt)
  return (
    <>
      <header className="head">
        <div>
          <h1>Accounts</h1>
          <p className="soft">
            {list.data
              ? `${inUse.length} in use · ${all.length - inUse.length} disabled · signed in at ${placesText(inUse.reduce((n, a) => n + Number(a.sessions), 0))}`
              : ' '}
          </p>
        </div>
        <TextInput
          type="search"
          aria-label="Find a name, role or site"
          placeholder="Find a name, role, site"
          value={find}
          onChange={(e) => setFind(e.currentTarget.value)}
        />
        <Button onClick={() => setEdits('new')}>New account…</Button>
      </header>
      <section className="card" aria-label="Accounts">
        {list.isPending ? (
          <Coming rows={6} />
        ) : list.isError ? (
          <Failed error={list.error} retry={() => list.refetch()} />
        ) : shown.length === 0 ? (
          <Empty>None is found.</Empty>
        ) : (
          <ul className="rows">
            {shown.map((a) => (
              <Row key={a.name} account={a} isOwn={a.name === me.data?.name} edit={() => setEdits(a)} />
            ))}
          </ul>
        )}
      </section>
      <GroupsCard />
      <Lately />
      {edits && <AccountDialog account={edits === 'new' ? null : edits} close={() => setEdits(null)} />}
    </>
  )
}

const mostShown = 20

/** What happened to accounts and who came in: the newest of the service's own ledger. */
function Lately() {
  const clock = useClock()
  const list = useQuery(latelyQuery)
  return (
    <section className="card" aria-label="Lately">
      <div className="card-head">
        <h2>Lately</h2>
        <span className="soft">
          <To to="/history?of=service">All of it, and its proof</To>
        </span>
      </div>
      {list.isPending ? (
        <Coming rows={4} />
      ) : list.isError ? (
        <Failed error={list.error} retry={() => list.refetch()} />
      ) : list.data.length === 0 ? (
        <Empty>Nothing has happened yet.</Empty>
      ) : (
        <ul className="rows">
          {list.data.slice(0, mostShown).map((e) => (
            <li key={e.number} className="lately-row">
              {e.kind === 'sign-in.refused' ? <Sign sign="wants" /> : <span />}
              <span>
                {visible(e.words)}
                {e.times > 1 && <span className="soft"> · {e.times} times</span>}
              </span>
              <time className="soft" dateTime={e.at}>
                {clock.full(e.at)}
              </time>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

const placesText = (places: number) => (places === 1 ? '1 place' : `${places} places`)

const reach = (a: Account) =>
  [
    a.sites.length > 0 ? a.sites.join(', ') : a.role === 'technician' ? 'no site' : '',
    a.refreshes.length > 0 ? `only ${a.refreshes.join(', ')}` : '',
  ]
    .filter(Boolean)
    .join(' · ')

function Row({ account: a, isOwn, edit }: { account: Account; isOwn: boolean; edit: () => void }) {
  const clock = useClock()
  const [ends, setEnds] = useState<End | null>(null)
  const enable = useEndAccount(a.name)
  const places = Number(a.sessions)
  return (
    <li className="account-row">
      {a.disabledAt ? <Sign sign="off" quiet /> : <span />}
      <span>
        <span className="strong">{a.shown}</span> <span className="mono soft">{a.name}</span>
        {isOwn && <span className="soft"> · you</span>}
        {Number(a.passkeys) > 0 && <span className="soft"> · passkey</span>}
        {a.isOfOrganisation && <span className="soft"> · by the organisation</span>}
      </span>
      <span>
        {a.role} <span className="soft">{reach(a)}</span>
      </span>
      <span className="soft">
        {a.disabledAt
          ? `disabled since ${clock.full(a.disabledAt)}`
          : places === 0
            ? 'signed in nowhere'
            : `signed in at ${placesText(places)}${a.seenAt ? `, last used ${clock.full(a.seenAt)}` : ''}`}
        {enable.isError && ` · ${enable.error.message}`}
      </span>
      <Menu position="bottom-end" withinPortal>
        <Menu.Target>
          <Button size="compact-sm" variant="default" aria-label={`What to do with ${a.shown}`}>
            ⋯
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={edit}>Change…</Menu.Item>
          <Menu.Item onClick={() => setEnds('sign-out')} disabled={places === 0}>
            Sign out everywhere…
          </Menu.Item>
          {Number(a.passkeys) > 0 && (
            <Menu.Item onClick={() => setEnds('forget')} disabled={isOwn}>
              Passkeys are lost…
            </Menu.Item>
          )}
          {a.disabledAt ? (
            <Menu.Item onClick={() => enable.mutate('enable')}>Let in again</Menu.Item>
          ) : (
            <Menu.Item onClick={() => setEnds('disable')} disabled={isOwn}>
              Disable…
            </Menu.Item>
          )}
          <Menu.Item onClick={() => setEnds('remove')} disabled={isOwn} color="red">
            Remove…
          </Menu.Item>
        </Menu.Dropdown>
      </Menu>
      {ends && <EndDialog account={a} how={ends} close={() => setEnds(null)} />}
    </li>
  )
}

const words: Record<Exclude<End, 'enable'>, [title: string, what: string, action: string]> = {
  disable: [
    'Disable',
    'Nobody gets in by it any more: browsers, programs and live pages of it are refused from the next request on. It can be let in again.',
    'Disable it',
  ],
  'sign-out': [
    'Sign out',
    'Every browser and program of it has to sign in again. Steps that wait on a device stay there for them.',
    'Sign it out',
  ],
  forget: [
    'Take the passkeys away of',
    'Its passkeys and recovery codes open nothing any more, and it is signed out everywhere. Until it has a new one, the password alone lets in: be sure who asks you.',
    'Take them away',
  ],
  remove: ['Remove', 'It is gone for good, and signed out everywhere. What it did stays under its name in the ledger.', 'Remove it'],
}

function EndDialog({ account, how, close }: { account: Account; how: End; close: () => void }) {
  const end = useEndAccount(account.name)
  if (how === 'enable') return null
  const [title, what, action] = words[how]
  return (
    <FormDialog
      title={`${title} ${account.shown} (${account.name})`}
      close={close}
      change={end}
      send={() => end.mutate(how, { onSuccess: close })}
      action={action}
      color={how === 'sign-out' ? undefined : 'red'}
    >
      <p>{what}</p>
    </FormDialog>
  )
}
