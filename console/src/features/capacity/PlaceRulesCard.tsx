import { Button, Textarea } from '@mantine/core'
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { api, take } from '../../api/client'
import { Failed } from '../../shared/States'

const rulesQuery = (refresh: string) =>
  queryOptions({
    queryKey: ['place-rules', refresh],
    queryFn: ({ signal }) => take(api.GET('/api/refreshes/{refresh}/place-rules', { params: { path: { refresh } }, signal })),
  })

const start = `version: 1
places:
  - key: berth-plans
    kind: settings
    name: Berth plans
    windows: [AppData/Roaming/Berth Planner]
    needs: Berth Planner
`

/** Rules of the refresh's own by which surveys know places: settings of the house's programs, its synced folders, its clutter. */
export function PlaceRulesCard({ refresh, leads }: { refresh: string; leads: boolean }) {
  const queries = useQueryClient()
  const rules = useQuery(rulesQuery(refresh))
  const [typed, setTyped] = useState<string | null>(null)
  const put = useMutation({
    mutationFn: (yaml: string) => take(api.PUT('/api/refreshes/{refresh}/place-rules', { params: { path: { refresh } }, body: { yaml } })),
    onSuccess: (seen) => {
      queries.setQueryData(rulesQuery(refresh).queryKey, seen)
      setTyped(null)
    },
  })
  if (!rules.data) return null
  const own = rules.data.yaml ?? ''
  return (
    <section className="card" aria-labelledby="place-rules">
      <div className="card-head">
        <h2 id="place-rules">Places</h2>
        <span className="soft">
          {rules.data.rules === 0 ? 'as shipped' : `${rules.data.rules} rules of your own before those that ship`}
        </span>
      </div>
      <p className="soft">By which a survey knows settings, mail, libraries, what is in a cloud already, and clutter. Yours come first.</p>
      {typed === null ? (
        <>
          {own && <pre className="mono rules">{own}</pre>}
          {leads && (
            <div className="actions">
              <Button size="compact-sm" variant="default" onClick={() => setTyped(own || start)}>
                {own ? 'Change…' : 'Add rules of your own…'}
              </Button>
            </div>
          )}
        </>
      ) : (
        <div className="stack">
          <Textarea
            label="Rules of your own"
            description="YAML, in the form of those that ship. Empty: none."
            value={typed}
            onChange={(e) => setTyped(e.currentTarget.value)}
            autosize
            minRows={6}
            maxRows={24}
            spellCheck={false}
            classNames={{ input: 'mono' }}
            data-autofocus
          />
          {put.isError && <Failed error={put.error} />}
          <div className="actions">
            <Button variant="default" onClick={() => setTyped(null)}>
              Cancel
            </Button>
            <Button loading={put.isPending} onClick={() => put.mutate(typed)}>
              Save
            </Button>
          </div>
        </div>
      )}
      <details>
        <summary>The rules that ship</summary>
        <pre className="mono rules">{rules.data.standard}</pre>
      </details>
    </section>
  )
}
