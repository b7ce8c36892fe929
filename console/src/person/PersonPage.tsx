import { useQueryClient } from '@tanstack/react-query'
import { api, take } from '../api/client'
import { Mark } from '../shell/Mark'
import { AcceptCard } from './parts/AcceptCard'
import { AlongCard } from './parts/AlongCard'
import { AskCard } from './parts/AskCard'
import { KeptCard } from './parts/KeptCard'
import { MovesCard } from './parts/MovesCard'
import { OwnSteps } from './parts/OwnSteps'
import { PhraseCard } from './parts/PhraseCard'
import { SnagsCard } from './parts/SnagsCard'
import { WayCard } from './parts/WayCard'
import { WhenCard } from './parts/WhenCard'
import { type Page, setLanguage, setMail, useChange } from './queries'
import { languages, useVoice } from './speak'

/** A person's own page: what happens when, what is theirs to do, what became of their things. */
export function PersonPage({ page, stale }: { page: Page; stale: boolean }) {
  const { w, language } = useVoice()
  const change = useChange(setLanguage)
  const mail = useChange(setMail)
  const queries = useQueryClient()
  const forget = async () => {
    await take(api.DELETE('/api/person/session')).catch(() => undefined)
    queries.clear()
    window.location.reload()
  }
  // After the change the question is whether all is there; before it, when and what.
  const isLate = page.restoredAt !== null
  return (
    <>
      <header className="top">
        <Mark />
        <label>
          <span className="unseen">{w.language}</span>
          <select value={language} onChange={(e) => change.mutate(e.currentTarget.value)}>
            {Object.entries(languages).map(([key, { name }]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </select>
        </label>
      </header>
      <main>
        <h1>{w.hello(page.name)}</h1>
        <p className="soft">{page.refresh}</p>
        {stale && (
          <p role="status" className="notice">
            {w.offline}
          </p>
        )}
        {isLate && <AcceptCard page={page} />}
        <WhenCard page={page} />
        {page.steps.length > 0 && !isLate && <OwnSteps page={page} />}
        <WayCard page={page} />
        {page.carryList && !isLate && <AlongCard page={page} />}
        {page.passphrase && !isLate && <PhraseCard page={page} />}
        <MovesCard page={page} />
        <SnagsCard page={page} />
        {!isLate && <AcceptCard page={page} />}
        <AskCard page={page} />
        <KeptCard page={page} />
        <label className="choice">
          <input
            type="checkbox"
            checked={mail.isPending ? mail.variables : page.mailOff}
            onChange={(e) => mail.mutate(e.currentTarget.checked)}
          />
          {w.mail}
        </label>
        <p>
          <button type="button" className="quiet" onClick={forget}>
            {w.forget}
          </button>
        </p>
      </main>
    </>
  )
}
