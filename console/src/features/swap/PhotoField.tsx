import { Button } from '@mantine/core'
import { useEffect, useRef, useState } from 'react'

const longest = 2048
const most = 12 * 1024 * 1024

/**
 * Makes a photo smaller on the device: nobody needs the pores of a desk, and a phone's link is slow. What the browser cannot
 * read as a picture goes as it is; the service says what is wrong with it.
 */
export async function smaller(photo: Blob): Promise<Blob> {
  try {
    const picture = await createImageBitmap(photo, { imageOrientation: 'from-image' })
    const scale = Math.min(1, longest / Math.max(picture.width, picture.height))
    if (scale === 1 && photo.size < 1_000_000) return photo
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(picture.width * scale)
    canvas.height = Math.round(picture.height * scale)
    canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height)
    picture.close()
    return (await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', 0.85))) ?? photo
  } catch {
    return photo
  }
}

/** Takes or chooses a photo, and shows it before it is kept. */
export function PhotoField({ photo, take }: { photo: Blob | null; take: (photo: Blob) => void }) {
  const input = useRef<HTMLInputElement>(null)
  const [shown, setShown] = useState<string>()
  useEffect(() => {
    if (!photo || typeof URL.createObjectURL !== 'function') return
    const address = URL.createObjectURL(photo)
    setShown(address)
    return () => URL.revokeObjectURL(address)
  }, [photo])
  return (
    <div className="stack tight">
      <input
        ref={input}
        type="file"
        accept="image/*"
        capture="environment"
        className="unseen"
        aria-label="Photo"
        tabIndex={-1}
        onChange={async (e) => {
          const file = e.currentTarget.files?.[0]
          if (file) take(await smaller(file))
        }}
      />
      {shown && <img src={shown} alt="As it will be kept" className="photo" />}
      <Button variant="default" data-autofocus onClick={() => input.current?.click()}>
        {photo ? 'Take another' : 'Take or choose a photo'}
      </Button>
      <p className="soft">
        Place and camera are taken out of it.{' '}
        {photo && photo.size > most ? <strong>It is larger than 12 MB and will be refused.</strong> : ''}
      </p>
    </div>
  )
}
