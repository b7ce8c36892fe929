import { createContext, useContext } from 'react'
import { Refused } from '../api/client'
import { instantAt } from '../shared/wall'
import { de } from './words/de'
import { en, type Words } from './words/en'

export const languages: Record<string, { name: string; locale: string; words: Words }> = {
  en: { name: 'English', locale: 'en-GB', words: en },
  de: { name: 'Deutsch', locale: 'de-DE', words: de },
}

export type Speech = {
  language: string
  w: Words
  /** Tuesday 1 December */
  day: (at: string) => string
  /** 09:40 */
  time: (at: string) => string
  /** 1 December, 09:40 */
  moment: (at: string) => string
  date: (day: string) => string
  /** The instant at which clocks there show a local time, 2026-12-01T08:00. */
  instant: (local: string) => string
  /** What was refused, in the words of the page. */
  told: (error: Error | null) => string
  files: (count: number) => string
  bytes: (count: number) => string
}

/** The page's voice: words, dates and numbers as people of that language write them, times as on the walls of their site. */
export function speak(language: string, zone: string): Speech {
  const { locale, words } = languages[language] ?? { name: 'English', locale: 'en-GB', words: en }
  const format = (options: Intl.DateTimeFormatOptions, timeZone = zone) => {
    const formatter = new Intl.DateTimeFormat(locale, { ...options, timeZone })
    return (at: string) => formatter.format(new Date(at))
  }
  const number = new Intl.NumberFormat(locale)
  const short = new Intl.NumberFormat(locale, { maximumFractionDigits: 1 })
  const units = ['B', 'kB', 'MB', 'GB', 'TB']
  return {
    language,
    w: words,
    day: format({ weekday: 'long', day: 'numeric', month: 'long' }),
    time: format({ hour: '2-digit', minute: '2-digit' }),
    moment: format({ day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' }),
    date: format({ day: 'numeric', month: 'long', year: 'numeric' }, 'UTC'),
    instant: (local) => instantAt(local, zone),
    told: (error) => (error instanceof Refused && words.refusals[error.code]) || (error?.message ?? ''),
    files: (count) =>
      language === 'de'
        ? `${number.format(count)} ${count === 1 ? 'Datei' : 'Dateien'}`
        : `${number.format(count)} ${count === 1 ? 'file' : 'files'}`,
    bytes: (count) => {
      let [value, unit] = [count, 0]
      for (; value >= 999.5 && unit < units.length - 1; unit++) value /= 1000
      return `${unit === 0 || value >= 99.95 ? Math.round(value) : short.format(value)} ${units[unit]}`
    },
  }
}

const Voice = createContext<Speech>(speak('en', 'UTC'))
export const VoiceProvider = Voice.Provider
export const useVoice = () => useContext(Voice)

/** Before the page is there, nobody has chosen a language: the browser's. */
export const browsersLanguage = () => {
  const wanted = navigator.languages?.find((l) => l.slice(0, 2) in languages)
  return wanted ? wanted.slice(0, 2) : 'en'
}
