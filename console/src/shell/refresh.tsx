import { createContext, useContext } from 'react'
import type { Refresh } from '../api/client'

const Current = createContext<Refresh | null>(null)
export const RefreshProvider = Current.Provider

/** The refresh that the pages show. */
export function useRefresh(): Refresh {
  const refresh = useContext(Current)
  if (!refresh) throw new Error('No refresh is chosen.')
  return refresh
}
