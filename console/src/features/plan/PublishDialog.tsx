import { Button, Modal } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { Coming, Failed } from '../../shared/States'
import { WhoHears } from '../told/WhoHears'
import { changesQuery, type Plan, usePublish } from './queries'

/** Whom publishing affects and how, before it is done. */
export function PublishDialog({ refresh, plan, close }: { refresh: string; plan: Plan; close: () => void }) {
  const changes = useQuery(changesQuery(refresh, plan))
  const publish = usePublish(refresh)
  if (publish.isSuccess)
    return (
      <Modal opened onClose={close} title={`Plan ${plan.number} is published`} size="lg">
        <div className="stack">
          <WhoHears refresh={refresh} />
          <div className="actions">
            <Button onClick={close} data-autofocus>
              Close
            </Button>
          </div>
        </div>
      </Modal>
    )
  return (
    <Modal opened onClose={close} title={`Publish plan ${plan.number}`} size="lg">
      {changes.isPending ? (
        <Coming rows={5} />
      ) : changes.isError ? (
        <Failed error={changes.error} retry={() => changes.refetch()} />
      ) : (
        <div className="stack">
          <p>
            {changes.data.changes.length === 0
              ? 'Nobody is affected: it is the same as what is published.'
              : `${changes.data.changes.length} visits change. What is published counts as promised: later plans keep to it as far as they can.`}
          </p>
          <ul className="changes" tabIndex={0} aria-label="Changes">
            {changes.data.changes.slice(0, 500).map((c) => (
              <li key={`${c.swap}${c.isBench}`}>
                <span className={c.before && c.after ? 'sign-wants' : c.after ? 'sign-done' : 'sign-stopped'} aria-hidden="true">
                  {c.before && c.after ? '▲' : c.after ? '✓' : '■'}
                </span>{' '}
                {c.words}
              </li>
            ))}
          </ul>
          <div className="actions">
            <Button variant="default" onClick={close}>
              Not yet
            </Button>
            <Button loading={publish.isPending} onClick={() => publish.mutate(plan.version)} data-autofocus>
              Publish
            </Button>
          </div>
        </div>
      )}
    </Modal>
  )
}
