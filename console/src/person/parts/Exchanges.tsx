import type { Schemas } from '../../api/client'
import { answerExchange, useChange } from '../queries'
import { useVoice } from '../speak'

/** Questions about an exchange: those that wait for an answer of one's own, and those that one asked. */
export function Exchanges({ exchanges }: { exchanges: Schemas['ExchangeSeen'][] }) {
  const { w, day, time, told } = useVoice()
  const answer = useChange(answerExchange)
  const at = (start: string) => `${day(start)}, ${time(start)}`
  if (exchanges.length === 0) return null
  return (
    <>
      {answer.error && (
        <p role="alert" className="problem">
          <span aria-hidden="true">▲</span> {told(answer.error)}
        </p>
      )}
      {exchanges.map((one) => (
        <div key={one.id} className={one.isOwn ? 'aside' : 'aside now'}>
          <p>{one.isOwn ? w.when.youAsked(at(one.theirs)) : w.when.theyAsk(at(one.theirs), at(one.mine))}</p>
          <div className="actions">
            {!one.isOwn && (
              <button type="button" disabled={answer.isPending} onClick={() => answer.mutate({ exchange: one.id, agrees: true })}>
                {w.when.agree}
              </button>
            )}
            <button
              type="button"
              className={one.isOwn ? 'quiet' : 'plain'}
              disabled={answer.isPending}
              onClick={() => answer.mutate({ exchange: one.id, agrees: false })}
            >
              {one.isOwn ? w.when.takeBack : w.when.decline}
            </button>
          </div>
        </div>
      ))}
    </>
  )
}
