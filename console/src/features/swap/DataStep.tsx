import { Button } from '@mantine/core'
import type { Step, SwapSeen } from '../../api/client'
import { ageText, bytesText } from '../../shared/amounts'
import { useOrder } from './queries'
import { Snags } from './Snags'

const sides: Record<string, 'old' | 'new'> = {
  surveyed: 'old',
  'staged-and-verified': 'old',
  'closing-trip-done': 'old',
  'restored-and-verified': 'new',
  'account-closed': 'new',
  'programs-found': 'new',
  'free-disk': 'new',
  'signed-out': 'old',
}

/** What has to run before the system sees this fact; null: nothing can be ordered for it now. */
function orderFor(fact: string, seen: SwapSeen): [kind: string, words: string] | null {
  const has = (station: string) => seen.swap.line.some((stop) => stop.station === station && stop.at)
  if (fact === 'surveyed') return ['survey', 'Survey the old computer']
  if (fact === 'signed-out') return has('swapped') ? ['survey', 'Look at the old computer again'] : null
  if (fact === 'programs-found' || fact === 'free-disk') return seen.swap.newTag ? ['survey-new', 'Look at the new computer'] : null
  if (fact === 'closing-trip-done') return ['closing-trip', 'Start the closing trip']
  if (fact === 'staged-and-verified')
    return seen.parcel?.trips
      ? seen.parcel.verified
        ? ['top-up-trip', 'Top-up trip']
        : ['verify', 'Verify the parcel']
      : ['first-trip', 'First trip']
  if (fact === 'restored-and-verified') return has('staged') || seen.rescue ? ['restore', 'Restore to the new computer'] : null
  return null
}

const words: Record<string, string> = {
  survey: 'Survey',
  'survey-new': 'Survey of the new computer',
  'first-trip': 'First trip',
  'top-up-trip': 'Top-up trip',
  'closing-trip': 'Closing trip',
  verify: 'Verify',
  restore: 'Restore',
}

/** The data of a step that the system checks itself: started here, seen moving here, its snags dealt with here. */
export function DataStep({ step, seen, works }: { step: Step; seen: SwapSeen; works: boolean }) {
  const order = useOrder(seen.swap.id)
  const fact = step.fact ?? ''
  const next = orderFor(fact, seen)
  const m = seen.swap.moving
  const side = sides[fact]
  const stuck = seen.snags.some((snag) => snag.end === 'open' && snag.side === side)
  const mine = !!m && (side === 'new') === (m.kind.endsWith('restore') || m.kind === 'survey-new')
  if (!works && !mine && !stuck) return null
  const left =
    m && m.totalBytes > m.bytes && m.bytesPerSecond > 0 ? `, about ${ageText((m.totalBytes - m.bytes) / m.bytesPerSecond)} more` : ''
  return (
    <div className="data-step">
      {m && mine ? (
        <>
          <p className="soft">
            <span className="sign-moving" aria-hidden="true">
              ●
            </span>{' '}
            {words[m.kind] ?? m.kind}: {m.totalBytes > 0 ? `${bytesText(m.bytes)} of ${bytesText(m.totalBytes)}` : `${m.files} files`}
            {left}
          </p>
          <progress
            value={m.totalBytes > 0 ? m.bytes / m.totalBytes : undefined}
            aria-label={`${words[m.kind] ?? m.kind} of ${seen.swap.name}`}
          />
        </>
      ) : (
        works &&
        next &&
        !stuck && (
          <Button
            size="compact-sm"
            variant="default"
            loading={order.isPending}
            disabled={seen.swap.isBusy}
            onClick={() => order.mutate(next[0])}
          >
            {seen.swap.isBusy ? 'An order waits or runs' : next[1]}
          </Button>
        )
      )}
      {stuck && <Snags seen={{ ...seen, snags: seen.snags.filter((s) => s.end === 'open' && s.side === side) }} works={works} />}
    </div>
  )
}
