import { Button } from '@mantine/core'
import { type ReactNode, useState } from 'react'
import { Refused } from '../api/client'

/** What happened and what to do; nothing typed is lost. */
export function Failed({ error, retry }: { error: unknown; retry?: () => unknown }) {
  const refused = error instanceof Refused ? error : null
  const [trying, setTrying] = useState(false)
  const [tries, setTries] = useState(0)
  const again = async () => {
    setTrying(true)
    try {
      await retry?.()
    } finally {
      setTrying(false)
      setTries((n) => n + 1)
    }
  }
  return (
    <div className="state" role="alert">
      <p>
        <span className="sign sign-stopped" aria-hidden="true">
          ■
        </span>{' '}
        {refused?.message ?? 'This page could not be shown.'}
      </p>
      {retry && (
        <Button variant="default" size="xs" loading={trying} onClick={again}>
          Try again
        </Button>
      )}
      {tries > 0 && !trying && (
        <p className="soft" role="status">
          {tries === 1 ? 'Tried once more' : `Tried ${tries} times more`}, and it is still so.
        </p>
      )}
    </div>
  )
}

export function Empty({ children }: { children: ReactNode }) {
  return <div className="state">{children}</div>
}

/** The shape of what comes. */
export function Coming({ rows = 6 }: { rows?: number }) {
  return (
    <div className="coming" role="status" aria-label="Loading">
      {Array.from({ length: rows }, (_, i) => (
        <span key={`row-${i.toString()}`} style={{ width: `${88 - ((i * 17) % 40)}%` }} />
      ))}
    </div>
  )
}
