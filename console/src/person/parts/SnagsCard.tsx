import { visible } from '../../shared/visible'
import { allowNames, type Page, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'

/** Files that did not come along, by name: this page is the only place that names them to anybody but a technician. */
export function SnagsCard({ page }: { page: Page }) {
  const { w } = useVoice()
  const allow = useChange(allowNames)
  if (page.snags.length === 0) return null
  return (
    <Card title={w.snags.title}>
      <ul className="snags">
        {page.snags.map((snag) => (
          <li key={snag.id}>
            <span className="mono">{visible(snag.path)}</span> {w.snags.kinds[snag.kind] ?? snag.reason}
            <span className="soft">
              {snag.end === 'waived' ? ` · ${w.snags.waived(snag.endedBy ?? '', snag.endReason ?? '')}` : ` · ${w.snags.open}`}
            </span>
          </li>
        ))}
      </ul>
      {page.namesAllowed !== null && (
        <label className="choice">
          <input
            type="checkbox"
            checked={allow.isPending ? allow.variables : page.namesAllowed}
            onChange={(e) => allow.mutate(e.currentTarget.checked)}
          />
          <span>
            {w.snags.names} <span className="soft">{w.snags.namesHow}</span>
          </span>
        </label>
      )}
    </Card>
  )
}
