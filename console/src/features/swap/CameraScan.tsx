import { BrowserMultiFormatReader, type IScannerControls } from '@zxing/browser'
import { useEffect, useRef, useState } from 'react'

/** What the browser says when it gives no camera, in words that help. */
const why = (error: unknown) => {
  const name = error instanceof Error ? error.name : ''
  if (!navigator.mediaDevices)
    return 'A browser gives the camera only over HTTPS. Type the tag, or ask for the service to get a certificate.'
  if (name === 'NotAllowedError') return 'The camera was not allowed. Allow it in the browser, or type the tag.'
  if (name === 'NotFoundError' || name === 'OverconstrainedError') return 'This device has no camera that can be used. Type the tag.'
  return 'The camera did not start. Type the tag.'
}

/** Looks through the camera for a bar or matrix code. Nothing that it sees is kept or sent. */
export default function CameraScan({ read }: { read: (text: string) => void }) {
  const video = useRef<HTMLVideoElement>(null)
  const [problem, setProblem] = useState('')
  const told = useRef(read)
  told.current = read
  useEffect(() => {
    let controls: IScannerControls | undefined
    let over = false
    const reader = new BrowserMultiFormatReader(undefined, { delayBetweenScanAttempts: 150 })
    const start = async () => {
      try {
        if (!navigator.mediaDevices) throw new Error()
        controls = await reader.decodeFromConstraints(
          { video: { facingMode: 'environment', width: { ideal: 1280 } } },
          video.current ?? undefined,
          (result) => {
            const text = result?.getText().trim()
            if (!text || over) return
            over = true
            navigator.vibrate?.(60)
            told.current(text)
          },
        )
        if (over) controls.stop()
      } catch (error) {
        if (!over) setProblem(why(error))
      }
    }
    void start()
    return () => {
      over = true
      controls?.stop()
    }
  }, [])
  return problem ? (
    <p role="alert" className="problem">
      <span aria-hidden="true">■</span> {problem}
    </p>
  ) : (
    <figure className="camera">
      <video ref={video} muted playsInline aria-label="What the camera sees" />
      <figcaption className="soft">Hold the label's code into the frame.</figcaption>
    </figure>
  )
}
