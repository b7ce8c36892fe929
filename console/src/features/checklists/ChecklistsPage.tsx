import { Button, NativeSelect } from '@mantine/core'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { useRefresh } from '../../shell/refresh'
import { useLeads } from '../session/queries'
import { Editor } from './Editor'
import { MoveMany } from './MoveMany'
import { type Template, templatesQuery, usesQuery } from './queries'

const keyOf = (t: Template) => `${t.name}/${t.version}`

/** Checklist templates: their steps as cards or as text, kept as new versions, and which swaps take them. */
export function ChecklistsPage() {
  const refresh = useRefresh().key
  const leads = useLeads()
  const templates = useQuery(templatesQuery(refresh))
  const uses = useQuery(usesQuery(refresh))
  const [chosen, setChosen] = useState('')
  const [moves, setMoves] = useState(false)
  if (templates.isPending) return <Coming rows={8} />
  if (templates.isError) return <Failed error={templates.error} retry={() => templates.refetch()} />
  const template = templates.data.find((t) => keyOf(t) === chosen) ?? templates.data[0]
  const older = (uses.data ?? []).filter((u) => u.template === template?.name && u.version < template.version)
  const open = older.reduce((sum, u) => sum + u.untouched + u.begun, 0)
  return (
    <>
      <header className="head">
        <div>
          <h1>Checklists</h1>
          <p className="soft">
            What is done at each swap. A swap keeps the version that it has; a change is a new version, and you say which swaps take it.
          </p>
        </div>
        <div className="actions">
          {leads && open > 0 && (
            <Button variant="default" onClick={() => setMoves(true)}>
              {open} {open === 1 ? 'swap has an older version' : 'swaps have an older version'}
            </Button>
          )}
          <NativeSelect
            label="Checklist"
            value={template ? keyOf(template) : ''}
            onChange={(e) => setChosen(e.currentTarget.value)}
            data={templates.data.map((t) => ({ value: keyOf(t), label: `${t.name}, version ${t.version}` }))}
          />
        </div>
      </header>
      {template && (
        <Editor
          key={keyOf(template)}
          refresh={refresh}
          template={template}
          kept={(t) => {
            setChosen(keyOf(t))
            setMoves(true)
          }}
        />
      )}
      {moves && open > 0 && template && <MoveMany name={template.name} version={template.version} close={() => setMoves(false)} />}
    </>
  )
}
