import { lazy, Suspense } from 'react'

const Markdown = lazy(() => import('react-markdown'))

/** Markdown that somebody of the organisation wrote; HTML in it is text. */
export function Prose({ text }: { text: string }) {
  return (
    <div className="prose soft">
      <Suspense fallback={<p>{text}</p>}>
        <Markdown>{text}</Markdown>
      </Suspense>
    </div>
  )
}
