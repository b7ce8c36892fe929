import { Button, Checkbox, MultiSelect, Select, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { doorsQuery, meQuery, refreshesQuery } from '../session/queries'
import { sitesQuery } from '../swaps/queries'
import { type StaffGroup, staffGroupsQuery, useAskSecond, usePutGroup, useRemoveGroup } from './queries'

/** What is asked beside a password, and what the organisation's groups open. */
export function GroupsCard() {
  const doors = useQuery(doorsQuery)
  const list = useQuery({ ...staffGroupsQuery, enabled: !!doors.data?.path })
  const [edits, setEdits] = useState<StaffGroup | 'new' | null>(null)
  return (
    <section className="card" aria-label="How people get in">
      <div className="card-head">
        <h2>How people get in</h2>
        {doors.data?.path && (
          <Button size="compact-sm" variant="default" onClick={() => setEdits('new')}>
            A group opens…
          </Button>
        )}
      </div>
      <SecondBox />
      {doors.data && !doors.data.path ? (
        <p className="soft">
          By name and password. Where your organisation has an identity provider, the setting <code>organisation</code> lets people in by
          it.
        </p>
      ) : (
        <p className="soft">
          By name and password, and by {doors.data?.organisation ?? '…'}: what they may, their groups there say when they sign in.
        </p>
      )}
      {list.isError && <Failed error={list.error} retry={() => list.refetch()} />}
      {doors.data?.path && list.isPending && <Coming rows={2} />}
      {list.data && (
        <ul className="rows">
          {list.data.map((g) => (
            <Row key={g.name} group={g} edit={() => setEdits(g)} />
          ))}
        </ul>
      )}
      {list.data?.length === 0 && <p className="soft">No group opens anything yet.</p>}
      {edits && <GroupDialog group={edits === 'new' ? null : edits} close={() => setEdits(null)} />}
    </section>
  )
}

function SecondBox() {
  const refresh = useRefresh()
  const me = useQuery(meQuery)
  const ask = useAskSecond(refresh.key)
  const may = refresh.asksSecond || me.data?.isSecond
  return (
    <>
      <Checkbox
        my="xs"
        label={`Whoever works in ${refresh.name} shows a passkey, too`}
        description={may ? undefined : 'Show a passkey of your own first, on the page of your account: else you would shut yourself out.'}
        checked={refresh.asksSecond ?? false}
        disabled={!may || ask.isPending}
        onChange={(e) => ask.mutate(e.currentTarget.checked)}
      />
      {ask.isError && <Failed error={ask.error} />}
    </>
  )
}

function Row({ group: g, edit }: { group: StaffGroup; edit: () => void }) {
  const remove = useRemoveGroup()
  return (
    <li className="place-row group-row">
      <span className="strong">{g.name}</span>
      <span className="soft">
        {g.role}
        {g.sites.length > 0 && ` at ${g.sites.join(', ')}`}
        {g.refreshes.length > 0 && ` · only ${g.refreshes.join(', ')}`}
        {remove.isError && <span className="problem"> {remove.error.message}</span>}
      </span>
      <span className="actions">
        <Button size="compact-sm" variant="default" onClick={edit} aria-label={`Change what ${g.name} opens`}>
          Change…
        </Button>
        <Button
          size="compact-sm"
          variant="default"
          loading={remove.isPending}
          onClick={() => remove.mutate(g.name)}
          aria-label={`${g.name} opens nothing any more`}
        >
          Remove
        </Button>
      </span>
    </li>
  )
}

function GroupDialog({ group, close }: { group: StaffGroup | null; close: () => void }) {
  const refresh = useRefresh()
  const put = usePutGroup()
  const sites = useQuery(sitesQuery(refresh.key))
  const refreshes = useQuery(refreshesQuery)
  const [name, setName] = useState(group?.name ?? '')
  const [role, setRole] = useState(group?.role ?? 'technician')
  const [served, setServed] = useState<string[]>([...(group?.sites ?? [])])
  const [reached, setReached] = useState<string[]>([...(group?.refreshes ?? [])])
  const known = sites.data?.map((s) => s.key) ?? []
  return (
    <FormDialog
      title={group ? `What ${group.name} opens` : 'A group opens'}
      close={close}
      change={put}
      send={() =>
        put.mutate({ name: name.trim(), role, sites: role === 'technician' ? served : [], refreshes: reached }, { onSuccess: close })
      }
      action="Keep it so"
      ready={!!name.trim()}
    >
      {!group && (
        <TextInput
          label="Group"
          description="As the identity provider names it."
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          maxLength={200}
          data-autofocus
        />
      )}
      <Select
        label="Role"
        data={['coordinator', 'technician', 'auditor']}
        value={role}
        onChange={(value) => setRole(value ?? role)}
        allowDeselect={false}
      />
      {role === 'technician' && (
        <MultiSelect
          label="Sites"
          data={[...new Set([...known, ...served])]}
          value={served}
          onChange={setServed}
          searchable
          placeholder={served.length ? undefined : 'None yet'}
        />
      )}
      <MultiSelect
        label="Refreshes"
        description="Left empty: all."
        data={(refreshes.data ?? []).map((r) => ({ value: r.key, label: r.name }))}
        value={reached}
        onChange={setReached}
        placeholder={reached.length ? undefined : 'All'}
      />
    </FormDialog>
  )
}
