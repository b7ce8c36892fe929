import { Button } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas, SwapSeen } from '../../api/client'
import { bytesText, countText, filesText } from '../../shared/amounts'
import { visible } from '../../shared/visible'
import { Word } from '../../shared/Word'
import { useClock } from '../../shared/zone'
import { AdoptDialog, clashes, LandingDialog, PartDialog, PurgeDialog, SkipDialog } from './ParcelDialogs'
import { landingQuery, useParcelOrder, useRestoreAfterAll } from './queries'

type Plan = Schemas['LandingWanted']

/** The staged parcel: where it lands, parts of it once more, how long it is held, its end. */
export function ParcelCard({ seen, works, leads = false }: { seen: SwapSeen; works: boolean; leads?: boolean }) {
  const { parcel, swap } = seen
  const restores = swap.line.some((stop) => stop.station === 'restored')
  const landing = useQuery({ ...landingQuery(swap.id), enabled: (!!parcel?.trips || !!parcel?.begun) && restores })
  const look = useParcelOrder(swap.id)
  const [dialog, setDialog] = useState<'landing' | 'part' | 'purge' | 'adopt' | 'skip' | null>(null)
  const afterAll = useRestoreAfterAll(swap.id)
  const clock = useClock()
  if (!parcel?.trips && !parcel?.begun) return works ? <Adopt seen={seen} leads={leads} /> : null
  const { hold } = parcel
  // While the old computer is there, its first trip is made again; nothing is restored from what it had left.
  const lands = restores && (!parcel.begun || swap.kind === 'rescue')
  const close = () => setDialog(null)
  return (
    <section className="card" aria-labelledby="parcel">
      <div className="card-head">
        <div className="titled">
          <h2 id="parcel">The parcel</h2>
          <Word of="parcel" />
        </div>
        <span className="soft">
          {parcel.sealed ? 'sealed' : 'open'},{' '}
          {parcel.begun
            ? 'its first trip has not ended'
            : `${parcel.trips === 1 ? '1 trip' : `${parcel.trips} trips`}${parcel.verified ? ', verified' : ', not verified since'}`}
        </span>
      </div>
      <p className="soft mono path">
        {parcel.address.replace(/\/$/, '')}/{parcel.name}
      </p>
      {hold.purgedAt ? (
        <p>
          <span className="sign-done" aria-hidden="true">
            ✓
          </span>{' '}
          Purged {clock.full(hold.purgedAt)}; the depot lists nothing of it.
        </p>
      ) : (
        <>
          {hold.alarm && (
            <p className="sign-stopped" role="alert">
              <span aria-hidden="true">■</span> {hold.alarm}
            </p>
          )}
          {lands && landing.data && <Landing plan={landing.data.plan} by={landing.data.by} />}
          {lands && landing.data?.foreseen && <Foreseen seen={landing.data.foreseen} />}
          {seen.restoreSkip && (
            <p>
              Nothing is restored, decided by {seen.restoreSkip.by} {clock.full(seen.restoreSkip.at)}: {seen.restoreSkip.reason}
            </p>
          )}
          <p className="soft">
            {parcel.begun && hold.missing.length === 0
              ? swap.isBusy
                ? 'Its first trip is under way, or waits for its hand.'
                : 'Order the first trip again and it goes on where it broke off; or purge what it left, and begin anew.'
              : hold.missing.length === 0
                ? 'Its hold is over: it may be purged.'
                : `Not to be purged yet. ${hold.missing.join(' ')}`}
            {hold.depotEnds ? ` The depot deletes by itself on ${hold.depotEnds}.` : ''}
          </p>
        </>
      )}
      {works && !hold.purgedAt && (
        <div className="actions">
          {hold.missing.length === 0 && (
            <Button
              size="compact-sm"
              variant="default"
              color="red"
              disabled={swap.isBusy}
              title={swap.isBusy ? 'An order is under way or waits' : undefined}
              onClick={() => setDialog('purge')}
            >
              Purge…
            </Button>
          )}
          {lands && (
            <>
              <Button size="compact-sm" variant="default" disabled={swap.isBusy} onClick={() => setDialog('part')}>
                Restore a part…
              </Button>
              <Button
                size="compact-sm"
                variant="default"
                disabled={swap.isBusy}
                loading={look.isPending}
                onClick={() => look.mutate({ kind: 'look' })}
              >
                Look before a restore
              </Button>
              <Button size="compact-sm" variant="default" onClick={() => setDialog('landing')} disabled={!landing.data}>
                Where it lands…
              </Button>
              {seen.restoreSkip ? (
                <Button size="compact-sm" variant="default" loading={afterAll.isPending} onClick={() => afterAll.mutate()}>
                  Restore after all
                </Button>
              ) : (
                !seen.total.onNew && (
                  <Button size="compact-sm" variant="default" disabled={swap.isBusy} onClick={() => setDialog('skip')}>
                    Restore nothing…
                  </Button>
                )
              )}
            </>
          )}
        </div>
      )}
      {dialog === 'landing' && landing.data && <LandingDialog id={swap.id} plan={landing.data.plan} close={close} />}
      {dialog === 'part' && <PartDialog id={swap.id} close={close} />}
      {dialog === 'skip' && <SkipDialog id={swap.id} close={close} />}
      {dialog === 'purge' && <PurgeDialog id={swap.id} parcel={parcel.name} close={close} />}
    </section>
  )
}

function Landing({ plan, by }: { plan: Plan; by?: string | null }) {
  const moves = [
    ...plan.accounts.map((m) => `account ${m.from} in the home of ${m.to}`),
    ...plan.folders.map((m) => `${m.from} in ${m.to}`),
  ]
  return (
    <p>
      {moves.length === 0 ? 'Everything lands in its original place' : `Lands: ${moves.join(', ')}; the rest in its original place`}
      {plan.first.length > 0 && `. First: ${plan.first.join(', then ')}`}. Where something else stands, {clashes[plan.clash]}
      {plan.clashes.map((c) => `; in ${visible(c.folder)}, ${clashes[c.rule]}`).join('')}.
      {by && <span className="soft"> Decided by {by}.</span>}
    </p>
  )
}

function Foreseen({ seen }: { seen: Schemas['ForeseenSeen'] }) {
  const clock = useClock()
  const short = seen.freeBytes != null && seen.needsBytes > seen.freeBytes
  const sum = (of: (f: Schemas['ForeseenFolder']) => number) => seen.folders.reduce((all, f) => all + of(f), 0)
  const [fresh, stands, meets] = [
    sum((f) => f.new.files),
    sum((f) => f.stands.files),
    sum((f) => f.beside.files + f.replaced.files + f.stayed.files),
  ]
  const table = (
    <div className="table-scroll" tabIndex={0} role="region" aria-label="What a restore would do">
      <table className="account">
        <thead>
          <tr>
            <th scope="col">Folder</th>
            <th scope="col">Lands in</th>
            <th scope="col">New</th>
            <th scope="col">Stands already</th>
            <th scope="col">Beside</th>
            <th scope="col">Replaces</th>
            <th scope="col">Stays</th>
          </tr>
        </thead>
        <tbody>
          {seen.folders.map((f) => (
            <tr key={f.folder}>
              <th scope="row">{f.folder === '.' ? 'Beside the folders' : visible(f.folder)}</th>
              <td>{f.to === '.' || f.to === f.folder ? 'its place' : visible(f.to)}</td>
              <td>{countText(f.new.files)}</td>
              <td>{countText(f.stands.files)}</td>
              <td className={f.beside.files ? 'sign-wants' : ''}>{countText(f.beside.files)}</td>
              <td className={f.replaced.files ? 'sign-wants' : ''}>{countText(f.replaced.files)}</td>
              <td>{countText(f.stayed.files)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
  return (
    <>
      {meets === 0 ? (
        <details>
          <summary>
            {filesText(fresh)} would be new{stands ? `, ${countText(stands)} stand there already` : ''}; nothing else stands in the way
          </summary>
          {table}
        </details>
      ) : (
        table
      )}
      {seen.notInParcel.length > 0 && (
        <p className="sign-stopped">
          <span aria-hidden="true">■</span> Not in the parcel: {seen.notInParcel.join(', ')}
        </p>
      )}
      <p className={short ? 'sign-stopped' : 'soft'}>
        Looked {clock.full(seen.at)}, nothing was written. A restore needs {bytesText(seen.needsBytes)}
        {seen.freeBytes != null && ` of ${bytesText(seen.freeBytes)} that are free${short ? ': too little' : ''}`}.
      </p>
    </>
  )
}

/** Before anything is staged: somebody may have filled a folder by hand. */
function Adopt({ seen, leads }: { seen: SwapSeen; leads: boolean }) {
  const [asks, setAsks] = useState(false)
  if (!seen.swap.line.some((stop) => stop.station === 'staged')) return null
  return (
    <section className="card" aria-labelledby="parcel">
      <div className="card-head">
        <div className="titled">
          <h2 id="parcel">The parcel</h2>
          <Word of="parcel" />
        </div>
        {leads && (
          <Button size="compact-sm" variant="default" disabled={seen.swap.isBusy} onClick={() => setAsks(true)}>
            Adopt a folder…
          </Button>
        )}
      </div>
      <p className="soft">
        Nothing is staged yet. If somebody filled a folder in the depot by hand, {leads ? 'it can be' : 'a coordinator can have it'} taken
        in as the parcel.
      </p>
      {asks && <AdoptDialog id={seen.swap.id} close={() => setAsks(false)} />}
    </section>
  )
}
