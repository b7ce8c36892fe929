import { api } from '../api/client'

const mark = 'yard-left'
const answers = 'yard-answers'
const patience = 8_000
let telling: AbortController | null = null

/** What this browser keeps of answers, to work without a network: it goes with the account that read it. */
export const forgetAnswers = async () => {
  if ('caches' in window) await caches.delete(answers).catch(() => false)
}

/**
 * Somebody signed out. The cookie is the service's to end, which takes a network: until then this browser lets nobody see what it opens.
 */
export const leaving = {
  isUnderWay: () => localStorage.getItem(mark) !== null,
  /** From now on nothing is shown; the service hears of it as soon as it can. */
  begin: async () => {
    localStorage.setItem(mark, new Date().toISOString())
    await forgetAnswers()
    void leaving.end()
  },
  /** Tells the service, and waits for a moment only: there may be no network. */
  end: async () => {
    telling?.abort()
    telling = new AbortController()
    try {
      await api.DELETE('/api/sessions/current', { signal: AbortSignal.any([telling.signal, AbortSignal.timeout(patience)]) })
      localStorage.removeItem(mark)
    } catch {
      // The mark stays, and the next look at who is signed in tells it again.
    }
  },
  /** Somebody signed in, in place of whoever left: an answer that comes late must not end that. */
  over: () => {
    telling?.abort()
    localStorage.removeItem(mark)
  },
}
