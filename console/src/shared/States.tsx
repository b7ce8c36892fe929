import { Button } from '@mantine/core'
import type { ReactNode } from 'react'
import { Refused } from '../api/client'

/** What happened and what to do; nothing typed is lost. */
export function Failed({ error, retry }: { error: unknown; retry?: () => void }) {
  const refused = error instanceof Refused ? error : null
  return (
    <div className="state" role="alert">
      <p>
        <span className="sign sign-stopped" aria-hidden="true">
          ■
        </span>{' '}
        {refused?.message ?? 'This page could not be shown.'}
      </p>
      {retry && (
        <Button variant="default" size="xs" onClick={retry}>
          Try again
        </Button>
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
