import { api } from '../api/client'

const mark = 'yard-left'
const answers = 'yard-answers'

/** What this browser keeps of answers, to work without a network: it goes with the account that read it. */
export const forgetAnswers = async () => {
  if ('caches' in window) await caches.delete(answers).catch(() => false)
}

/**
 * Somebody signed out. The cookie is the service's to end, which takes a network: until then this browser lets nobody see what it opens.
 */
export const leaving = {
  isUnderWay: () => localStorage.getItem(mark) !== null,
  begin: async () => {
    localStorage.setItem(mark, new Date().toISOString())
    await forgetAnswers()
    await leaving.end()
  },
  /** Tells the service; true: it knows, or knew already. */
  end: async () => {
    try {
      await api.DELETE('/api/sessions/current')
      localStorage.removeItem(mark)
      return true
    } catch {
      return false
    }
  },
  /** Somebody signed in, in place of whoever left. */
  over: () => localStorage.removeItem(mark),
}
