import { Button, Select, Textarea } from '@mantine/core'
import { useState } from 'react'
import { Sign } from '../../shared/Sign'
import { useRefresh } from '../../shell/refresh'
import { FormDialog } from '../parcel/FormDialog'
import { type Damage, useDamage } from './queries'

type Beside = Damage['parcels'][number]['beside']

const groups: { beside: Beside; sign: string; words: string }[] = [
  { beside: 'nowhere', sign: 'stopped', words: 'No other copy is known' },
  { beside: 'copy', sign: 'wants', words: 'A second copy is in another depot' },
  { beside: 'oldComputer', sign: 'wants', words: 'The files are on the old computer, too' },
  { beside: 'newComputer', sign: 'done', words: 'The files are on the new computer' },
]

/** A depot was damaged: what that means is read before it is said. */
export function TellDamage({ depots }: { depots: { key: string; name: string }[] }) {
  const [asks, setAsks] = useState(false)
  return (
    <>
      <Button size="compact-sm" variant="default" onClick={() => setAsks(true)}>
        One was damaged…
      </Button>
      {asks && <DamageDialog depots={depots} close={() => setAsks(false)} />}
    </>
  )
}

function DamageDialog({ depots, close }: { depots: { key: string; name: string }[]; close: () => void }) {
  const damage = useDamage(useRefresh().key)
  const [key, setKey] = useState(depots.length === 1 ? (depots[0]?.key ?? '') : '')
  const [reason, setReason] = useState('')
  const seen = damage.data
  const change = (set: () => void) => {
    set()
    damage.reset()
  }
  return (
    <FormDialog
      title={seen?.done ? 'None of them counts as verified now' : 'A depot was damaged'}
      close={close}
      change={damage}
      keep={seen?.done ? 'Close' : 'Cancel'}
      send={() => (seen?.done ? close() : damage.mutate({ key, reason: reason.trim(), dryRun: !seen }))}
      action={seen?.done ? 'Done' : seen ? 'Say so' : 'See what it means'}
      ready={!!key && !!reason.trim()}
    >
      {!seen?.done && (
        <>
          <Select
            label="Which depot?"
            data={depots.map((d) => ({ value: d.key, label: d.name }))}
            value={key || null}
            onChange={(depot) => change(() => setKey(depot ?? ''))}
            required
          />
          <Textarea
            label="What happened to it?"
            value={reason}
            onChange={(e) => change(() => setReason(e.currentTarget.value))}
            maxLength={300}
            autosize
            minRows={1}
            required
          />
        </>
      )}
      {seen && <Meaning seen={seen} />}
    </FormDialog>
  )
}

function Meaning({ seen }: { seen: Damage }) {
  return (
    <div role="status" className="stack tight">
      {seen.total === 0 && <p>No parcel lies in it.</p>}
      {groups.map(({ beside, sign, words }) => {
        const those = seen.parcels.filter((p) => p.beside === beside)
        return (
          those.length > 0 && (
            <section key={beside} aria-label={words}>
              <p>
                <Sign sign={sign} quiet /> <strong>{words}</strong> · {those.length}
              </p>
              <p className="soft">{those[0]?.remedy}</p>
              <p>{those.map((p) => p.name).join(', ')}</p>
            </section>
          )
        )
      })}
      {seen.total > seen.parcels.length && <p>And {seen.total - seen.parcels.length} more.</p>}
      {seen.copies > 0 && <p>{seen.copies} second copies of other depots’ parcels in it count no more.</p>}
      {!seen.done && seen.total > 0 && (
        <p className="soft">
          Once it is said, none of them counts as verified, and no old computer is wiped before its parcel was read again.
        </p>
      )}
    </div>
  )
}
