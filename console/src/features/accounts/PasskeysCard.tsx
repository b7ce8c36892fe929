import { Button, PasswordInput, TextInput } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import type { Schemas } from '../../api/client'
import { whyNoPasskeys } from '../../shared/passkey'
import { Sign } from '../../shared/Sign'
import { Coming, Failed } from '../../shared/States'
import { useClock } from '../../shared/zone'
import { meQuery } from '../session/queries'
import { passkeysQuery, useAddPasskey, useNewCodes, useRemovePasskey, useShowSecond } from './queries'

/** Passkeys of one's own account, and codes for when they are lost. */
export function PasskeysCard() {
  const me = useQuery(meQuery)
  const list = useQuery(passkeysQuery)
  const add = useAddPasskey()
  const fresh = useNewCodes()
  const show = useShowSecond()
  const codes = fresh.data?.codes ?? add.data?.codes
  const has = (list.data?.passkeys.length ?? 0) > 0
  const isSecond = me.data?.isSecond ?? false
  const left = Number(list.data?.codesLeft ?? 0)
  const isOfOrganisation = me.data?.isOfOrganisation ?? false
  return (
    <section className="card" aria-label="Passkeys">
      <div className="card-head">
        <h2>Passkeys</h2>
        {has && !isSecond && (
          <Button size="compact-sm" loading={show.isPending} onClick={() => show.mutate()}>
            Show mine now
          </Button>
        )}
        {has && isSecond && (
          <Button size="compact-sm" variant="default" loading={fresh.isPending} onClick={() => fresh.mutate(undefined)}>
            New recovery codes
          </Button>
        )}
      </div>
      <p className="soft">
        {has
          ? `${isOfOrganisation ? 'It counts beside what your organisation says.' : 'Nobody gets in by your password alone.'} ${left === 1 ? '1 recovery code is' : `${left} recovery codes are`} left, for when you have no passkey at hand.`
          : isOfOrganisation
            ? 'Your organisation says who you are. Where a refresh asks for a passkey, too, it counts beside that.'
            : 'With one, nobody gets in by your password alone. It lies on your phone, your computer or a key, and works on this service only.'}
      </p>
      {list.isPending ? (
        <Coming rows={2} />
      ) : list.isError ? (
        <Failed error={list.error} retry={() => list.refetch()} />
      ) : (
        has && (
          <ul className="rows">
            {list.data.passkeys.map((p) => (
              <Row key={p.id} passkey={p} may={isSecond} />
            ))}
          </ul>
        )
      )}
      {codes && <Codes codes={codes} />}
      {show.isError && <Failed error={show.error} />}
      {fresh.isError && <Failed error={fresh.error} />}
      <Add add={add} asksPassword={!isOfOrganisation} />
    </section>
  )
}

function Row({ passkey: p, may }: { passkey: Schemas['PasskeySeen']; may: boolean }) {
  const clock = useClock()
  const remove = useRemovePasskey()
  return (
    <li className="place-row">
      <span>{p.name}</span>
      <span className="soft">
        since {clock.full(p.madeAt)} · {p.usedAt ? `last shown ${clock.full(p.usedAt)}` : 'not shown yet'}
        {p.isBackedUp && ' · on several devices'}
        {remove.isError && <span className="problem"> {remove.error.message}</span>}
      </span>
      {may && (
        <Button
          size="compact-sm"
          variant="default"
          loading={remove.isPending}
          onClick={() => remove.mutate(p.id)}
          aria-label={`Take the passkey ${p.name} away`}
        >
          Take away
        </Button>
      )}
    </li>
  )
}

function Codes({ codes }: { codes: readonly string[] }) {
  return (
    <div className="codes" role="status">
      <p>
        <Sign sign="wants" /> <strong>Your recovery codes, shown this once.</strong> Keep them on paper, away from this device; each opens
        once. Those of before count no more.
      </p>
      <ol className="mono">
        {codes.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ol>
      <Button size="compact-sm" variant="default" onClick={() => navigator.clipboard?.writeText(codes.join('\n'))}>
        Copy them
      </Button>
    </div>
  )
}

function Add({ add, asksPassword }: { add: ReturnType<typeof useAddPasskey>; asksPassword: boolean }) {
  const why = whyNoPasskeys()
  const [name, setName] = useState('')
  const [password, setPassword] = useState('')
  const send = (event: FormEvent) => {
    event.preventDefault()
    add.mutate(
      { name, password },
      {
        onSuccess: () => {
          setName('')
          setPassword('')
        },
      },
    )
  }
  if (why) return <p className="soft">{why}</p>
  return (
    <form onSubmit={send} className="stack narrow">
      <TextInput
        label="What it lies on"
        placeholder="This laptop, my phone, key on the ring"
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        maxLength={60}
        required
        withAsterisk={false}
      />
      {asksPassword && (
        <PasswordInput
          label="Your password, once more"
          value={password}
          onChange={(e) => setPassword(e.currentTarget.value)}
          autoComplete="current-password"
          required
          withAsterisk={false}
        />
      )}
      {add.isError && <Failed error={add.error} />}
      <div className="actions">
        <Button type="submit" loading={add.isPending} disabled={!name.trim() || (asksPassword && !password)}>
          Add a passkey
        </Button>
      </div>
    </form>
  )
}
