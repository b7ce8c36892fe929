import { Button, TextInput } from '@mantine/core'
import { lazy, Suspense, useState } from 'react'

const CameraScan = lazy(() => import('./CameraScan'))

type Props = { label: string; description?: string; value: string; onChange: (tag: string) => void; read?: (tag: string) => void }

/** A tag: typed, scanned by a reader that types, or read by the camera. */
export function ScanField({ label, description, value, onChange, read }: Props) {
  const [looks, setLooks] = useState(false)
  return (
    <>
      <div className="scan-field">
        <TextInput
          label={label}
          description={description}
          value={value}
          onChange={(e) => onChange(e.currentTarget.value)}
          data-autofocus
          required
          autoComplete="off"
          autoCapitalize="characters"
          classNames={{ input: 'mono' }}
        />
        <Button variant="default" aria-pressed={looks} onClick={() => setLooks(!looks)}>
          {looks ? 'Stop' : 'Camera'}
        </Button>
      </div>
      {looks && (
        <Suspense fallback={<p className="soft">Starting…</p>}>
          <CameraScan
            read={(tag) => {
              setLooks(false)
              onChange(tag)
              read?.(tag)
            }}
          />
        </Suspense>
      )}
    </>
  )
}
