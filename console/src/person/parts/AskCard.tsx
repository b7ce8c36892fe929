import { type Page, say, useChange } from '../queries'
import { useVoice } from '../speak'
import { Card } from './Card'
import { SayForm } from './SayForm'

/** A question, and what came of those before. */
export function AskCard({ page }: { page: Page }) {
  const { w, moment } = useVoice()
  const ask = useChange((words: string) => say({ kind: 'question', words }))
  return (
    <Card title={w.ask.title}>
      <p className="soft">{w.ask.whom(page.askWhom)}</p>
      <SayForm label={w.ask.how} action={w.ask.send} change={ask} />
      {page.questions.length > 0 && (
        <ul className="questions">
          {page.questions.map((q) => (
            <li key={q.id}>
              <p>
                <span className="soft">
                  {w.ask.kinds[q.kind] ?? q.kind}, {moment(q.at)}:
                </span>{' '}
                {q.words}
              </p>
              {q.answer ? (
                <p className="answer">
                  <span className="soft">{q.answeredBy}:</span> {q.answer}
                </p>
              ) : (
                <p className="soft">{w.ask.open}</p>
              )}
            </li>
          ))}
        </ul>
      )}
    </Card>
  )
}
