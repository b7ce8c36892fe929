import { Button, NativeSelect, SegmentedControl, Textarea } from '@mantine/core'
import { useDebouncedValue, useLocalStorage } from '@mantine/hooks'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Coming, Failed } from '../../shared/States'
import { To } from '../../shared/To'
import { useRefresh } from '../../shell/refresh'
import { meQuery } from '../session/queries'
import { moments } from './moments'
import { type NoticeText, previewTextQuery, type Told, textsQuery, toldQuery, useNoticeText } from './queries'

const languages: Record<string, string> = { en: 'English', de: 'Deutsch' }

/** The texts that people are told in: read, changed with the mail beside them, kept as the refresh's own. */
export function TextsPage() {
  const refresh = useRefresh().key
  const texts = useQuery(textsQuery(refresh))
  const told = useQuery(toldQuery(refresh))
  const [moment, setMoment] = useState('announced')
  const [language, setLanguage] = useState('en')
  if (texts.isPending || told.isPending) return <Coming rows={8} />
  if (texts.isError) return <Failed error={texts.error} retry={() => texts.refetch()} />
  const text = texts.data.find((t) => t.moment === moment && t.language === language)
  return (
    <>
      <header className="head">
        <div>
          <h1>Texts of notices</h1>
          <p className="soft">
            What <To to="/told">people are told</To>, moment by moment. The first line is the subject; what stands in braces is filled in
            for each person.
          </p>
        </div>
        <div className="actions">
          <NativeSelect
            aria-label="Moment"
            value={moment}
            onChange={(e) => setMoment(e.currentTarget.value)}
            data={Object.entries(moments).map(([value, label]) => ({
              value,
              label: texts.data.some((t) => t.moment === value && t.isOwn) ? `${label} · own text` : label,
            }))}
          />
          <SegmentedControl
            aria-label="Language"
            value={language}
            onChange={setLanguage}
            data={Object.entries(languages).map(([value, label]) => ({ value, label }))}
          />
        </div>
      </header>
      {text && <Editor key={`${moment}/${language}`} refresh={refresh} text={text} people={told.data?.people ?? []} />}
    </>
  )
}

function Editor({ refresh, text, people }: { refresh: string; text: NoticeText; people: Told[] }) {
  const me = useQuery(meQuery)
  const leads = me.data?.role === 'coordinator'
  // What is typed and not kept yet outlives the page.
  const [draft, setDraft, forget] = useLocalStorage<string | null>({
    key: `yard.notice-text.${refresh}.${text.moment}.${text.language}`,
    defaultValue: null,
  })
  const [swap, setSwap] = useState(people[0]?.swap ?? '')
  const words = draft ?? text.text
  const [settled] = useDebouncedValue(words, 300)
  const preview = useQuery(previewTextQuery(refresh, { moment: text.moment, language: text.language, swap, text: settled }))
  const keep = useNoticeText(refresh)
  const changed = draft !== null && draft !== text.text
  const problems = preview.data?.problems ?? []
  const set = (next: string) => keep.mutate({ moment: text.moment, language: text.language, text: next }, { onSuccess: () => forget() })
  return (
    <div className="columns checklist-columns">
      <section className="card" aria-labelledby="text">
        <div className="card-head">
          <h2 id="text">Text</h2>
          <span className="soft">
            {text.isOwn ? 'your own' : 'as it ships'}
            {changed ? ' · changed, not kept yet' : ''}
          </span>
        </div>
        <Textarea
          aria-label="Text of the notice, in Markdown"
          value={words}
          onChange={(e) => setDraft(e.currentTarget.value)}
          readOnly={!leads}
          autosize
          minRows={14}
          maxRows={30}
          classNames={{ input: 'notice-text' }}
          error={problems.length > 0}
        />
        <p className="soft">Can be filled in here: {text.fields.map((f) => `{${f}}`).join(' ')}</p>
        {problems.length > 0 && (
          <ul className="missing problem" role="status">
            {problems.map((p) => (
              <li key={p}>{p}</li>
            ))}
          </ul>
        )}
        {keep.isError && <Failed error={keep.error} />}
        {leads && (
          <div className="actions">
            {text.isOwn && (
              <Button variant="default" loading={keep.isPending} onClick={() => set('')}>
                Take the text that ships
              </Button>
            )}
            <Button variant="default" disabled={!changed} onClick={() => forget()}>
              Throw changes away
            </Button>
            <Button disabled={!changed || problems.length > 0 || settled !== words} loading={keep.isPending} onClick={() => set(words)}>
              Keep it
            </Button>
          </div>
        )}
      </section>
      <section className="card" aria-labelledby="look" aria-busy={preview.isFetching}>
        <div className="card-head">
          <h2 id="look">How it reads</h2>
          <NativeSelect
            aria-label="For whom"
            size="xs"
            value={swap}
            onChange={(e) => setSwap(e.currentTarget.value)}
            data={people.map((p) => ({ value: p.swap, label: p.name }))}
          />
        </div>
        {people.length === 0 ? (
          <p className="soft">Nobody is in this refresh yet, so there is nobody to show it for.</p>
        ) : preview.isError ? (
          <Failed error={preview.error} />
        ) : preview.data && problems.length === 0 ? (
          <>
            <p className="strong">{preview.data.subject}</p>
            <iframe className="mail" title="The mail" sandbox="" srcDoc={mailOf(preview.data.html)} />
          </>
        ) : (
          <p className="soft">{problems.length > 0 ? 'Shown again once the text is right.' : ''}</p>
        )}
      </section>
    </div>
  )
}

// The mail is a page of its own: nothing in it runs, and its colours are a mail's.
const mailOf = (html: string) =>
  `<!doctype html><meta name="color-scheme" content="light dark"><body style="font:15px/1.5 system-ui,sans-serif;margin:0;padding:0.5rem">${html}</body>`
