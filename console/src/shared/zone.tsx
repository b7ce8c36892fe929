import { createContext, useContext } from 'react'
import { formatter } from './formats'

const Zone = createContext('UTC')
export const ZoneProvider = Zone.Provider

/** Times as the people of the refresh read them on their walls. */
export function useClock() {
  const zone = useContext(Zone)
  const format = (at: string, options: Intl.DateTimeFormatOptions) => formatter(zone, options).format(new Date(at))
  return {
    zone,
    time: (at: string) => format(at, { hour: 'numeric', minute: '2-digit' }),
    day: (at: string) => format(at, { weekday: 'short', day: 'numeric', month: 'short' }),
    short: (at: string, now = new Date()) => {
      const sameDay = format(at, { dateStyle: 'short' }) === format(now.toISOString(), { dateStyle: 'short' })
      return sameDay ? format(at, { hour: 'numeric', minute: '2-digit' }) : format(at, { day: 'numeric', month: 'short' })
    },
    full: (at: string) => format(at, { day: 'numeric', month: 'short', hour: 'numeric', minute: '2-digit' }),
  }
}
