/** Hatches the time in which somebody is away, behind what stands on a board between two moments. */
export function AwayBlock({ away, from, until }: { away: { from: string; until: string }; from: number; until: number }) {
  const begins = Math.max(from, Date.parse(away.from))
  const ends = Math.min(until, Date.parse(away.until))
  if (begins >= ends) return null
  const share = (time: number) => `${(time / (until - from)) * 100}%`
  return <div className="away" style={{ left: share(begins - from), width: share(ends - begins) }} aria-hidden="true" />
}
