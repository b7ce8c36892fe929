import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useState } from 'react'
import { Refused } from '../api/client'
import { PersonPage } from './PersonPage'
import { SayForm } from './parts/SayForm'
import { askForLink, doorsQuery, openLink, pageQuery } from './queries'
import { browsersLanguage, speak, useVoice, VoiceProvider } from './speak'

/** Opens the link, then shows the page; says plainly where there is none. */
export function Door() {
  const [opened, setOpened] = useState<'not-yet' | 'yes' | 'no' | 'staff'>('not-yet')
  const page = useQuery({ ...pageQuery, enabled: opened === 'yes' })
  useEffect(() => {
    // A second link opened in a page that is there already is another link.
    const open = () =>
      openLink().then(
        () => setOpened('yes'),
        (error) => setOpened(!(error instanceof Refused) ? 'no' : error.status === 0 ? 'yes' : error.status === 409 ? 'staff' : 'no'),
      )
    void open()
    window.addEventListener('hashchange', open)
    return () => window.removeEventListener('hashchange', open)
  }, [])
  const language = page.data?.language ?? browsersLanguage()
  const zone = page.data?.zone ?? 'UTC'
  const voice = useMemo(() => speak(language, zone), [language, zone])
  useEffect(() => {
    document.documentElement.lang = language
    document.title = voice.w.title
  }, [language, voice])
  const { w, told } = voice
  const back = window.location.search
  const [title, why] =
    back === '?failed'
      ? [w.shut.failed, w.shut.failedWhy]
      : back === '?nobody'
        ? [w.shut.nobody, w.shut.nobodyWhy]
        : opened === 'no'
          ? [w.shut.title, w.shut.why]
          : [w.shut.gone, w.shut.goneWhy]
  const shut = opened === 'no' || (page.error instanceof Refused && page.error.status === 401)
  return (
    <VoiceProvider value={voice}>
      {page.data && !shut ? (
        <PersonPage page={page.data} stale={page.isRefetchError} />
      ) : (
        <main className="door">
          {opened === 'staff' ? (
            <>
              <h1>{w.shut.staff}</h1>
              <p>{w.shut.staffWhy}</p>
            </>
          ) : shut ? (
            <>
              <h1>{title}</h1>
              <p>{why}</p>
              {opened === 'no' && <p>{w.shut.what}</p>}
              <OtherDoors />
            </>
          ) : page.isError ? (
            <>
              <h1>{w.failed}</h1>
              <p role="alert">{told(page.error)}</p>
              <button type="button" onClick={() => page.refetch()}>
                {w.again}
              </button>
            </>
          ) : (
            <p role="status" className="soft">
              {w.opening}
            </p>
          )}
        </main>
      )}
    </VoiceProvider>
  )
}

/** The organisation's sign-in, or a new link by mail to the address on record; what the answer is says nothing about who is known. */
function OtherDoors() {
  const { w } = useVoice()
  const doors = useQuery(doorsQuery)
  const ask = useMutation({ mutationFn: askForLink })
  return (
    <>
      {doors.data?.signIn && (
        <p>
          <a className="button" href={doors.data.signIn}>
            {w.shut.signIn}
          </a>
        </p>
      )}
      {!doors.data?.byMail ? null : ask.isSuccess ? (
        <p role="status">{w.shut.sent}</p>
      ) : (
        <SayForm label={w.shut.ask} action={w.shut.send} change={ask} lines={1} most={254} />
      )}
    </>
  )
}
