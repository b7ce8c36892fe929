import { Button } from '@mantine/core'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, take } from '../../api/client'
import { Coming, Failed } from '../../shared/States'
import { visible } from '../../shared/visible'
import { useClock } from '../../shared/zone'
import { meQuery } from '../session/queries'

/** A program asks to be let in as whoever is signed in here. */
export function LetInPage({ code }: { code: string }) {
  const clock = useClock()
  const me = useQuery(meQuery)
  const params = { path: { code } }
  const asking = useQuery({
    queryKey: ['asking', code],
    retry: false,
    staleTime: Infinity,
    queryFn: ({ signal }) => take(api.GET('/api/tokens/askings/{code}', { params, signal })),
  })
  const answer = useMutation({
    mutationFn: (lets: boolean) =>
      lets ? take(api.POST('/api/tokens/askings/{code}/let-in', { params })) : take(api.DELETE('/api/tokens/askings/{code}', { params })),
  })
  if (asking.isPending) return <Coming rows={4} />
  if (asking.isError) return <Failed error={asking.error} />
  const a = asking.data
  return (
    <section className="card let-in" aria-label="A program asks to be let in">
      <h1>Let a program in?</h1>
      {answer.isSuccess ? (
        <p role="status">
          {answer.variables ? 'It is in, as you. It stands under your name, where you are signed in.' : 'It was turned away.'} You can close
          this page.
        </p>
      ) : (
        <>
          <p className="code mono">{a.code}</p>
          <dl className="facts">
            <dt>What</dt>
            <dd>{visible(a.label)}</dd>
            <dt>From</dt>
            <dd>{a.from ?? 'nobody knows where'}</dd>
            <dt>Asked</dt>
            <dd>{clock.full(a.madeAt)}</dd>
          </dl>
          <p>
            It may do from then on what <strong>{me.data?.shown}</strong> may. Let it in only if you began this yourself, a moment ago, and
            it shows the same code: nobody who writes or calls you needs it.
          </p>
          {answer.isError && <Failed error={answer.error} />}
          <div className="actions">
            <Button loading={answer.isPending} onClick={() => answer.mutate(true)}>
              Let it in as me
            </Button>
            <Button variant="default" loading={answer.isPending} onClick={() => answer.mutate(false)}>
              Turn it away
            </Button>
          </div>
        </>
      )}
    </section>
  )
}
