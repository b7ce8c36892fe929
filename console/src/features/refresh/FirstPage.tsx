import { useNavigate } from '@tanstack/react-router'
import { useMakeRefresh } from './queries'
import { freshRefresh, RefreshForm } from './RefreshForm'

/** The first page of an empty service, and the way to another refresh: what it is called and when it is; all else comes after. */
export function FirstPage({ isFirst, chosen }: { isFirst: boolean; chosen: (key: string) => void }) {
  const make = useMakeRefresh()
  const navigate = useNavigate()
  return (
    <>
      <header className="head">
        <div>
          <h1>{isFirst ? 'Begin with a refresh' : 'A new refresh'}</h1>
          <p className="soft">
            A refresh is one round of new computers: its people, its days, its plan. Next come the people from a spreadsheet, the
            technicians, and where files lie on their way; each can be left and taken up again.
          </p>
        </div>
      </header>
      <section className="card narrow-card" aria-label="The refresh">
        <RefreshForm
          values={freshRefresh()}
          action="Make it"
          sending={make.isPending}
          error={make.error}
          send={(values) =>
            make.mutate(values, {
              onSuccess: (made) => {
                chosen(made.key)
                void navigate({ to: '/refresh' })
              },
            })
          }
        />
      </section>
    </>
  )
}
