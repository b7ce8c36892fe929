import { type ReactNode, useId } from 'react'

export function Card({ title, children, tone }: { title: string; children: ReactNode; tone?: 'now' }) {
  const id = useId()
  return (
    <section className={tone ? `card ${tone}` : 'card'} aria-labelledby={id}>
      <h2 id={id}>{title}</h2>
      {children}
    </section>
  )
}
