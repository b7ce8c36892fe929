import type { SignName } from '../api/client'

const shapes: Record<SignName, string> = { moving: '●', wants: '▲', stopped: '■', done: '✓', ahead: '○', off: '⊘' }
const words: Record<SignName, string> = {
  moving: 'moving',
  wants: 'wants somebody',
  stopped: 'stopped',
  done: 'done',
  ahead: 'not yet',
  off: 'called off',
}

export const signName = (sign: string): SignName => (sign in shapes ? (sign as SignName) : 'ahead')

/** One of the four signs, by shape first and colour second. */
export function Sign({ sign, quiet = false }: { sign: string; quiet?: boolean }) {
  const name = signName(sign)
  return (
    <span className={`sign sign-${name}`}>
      <span aria-hidden="true">{shapes[name]}</span>
      {quiet ? null : <span className="unseen">{words[name]}</span>}
    </span>
  )
}
