import { useRouter, useRouterState } from '@tanstack/react-router'
import { type ComponentProps, type MouseEvent, useEffect, useRef } from 'react'

type Props = ComponentProps<'a'> & { to: string }

/** A way to another page of the console. It asks the router only when it is gone: lists and the pages' bar have many, and a slow phone draws each. */
export function To({ to, onClick, ...rest }: Props) {
  const router = useRouter()
  const go = (event: MouseEvent<HTMLAnchorElement>) => {
    onClick?.(event)
    if (event.defaultPrevented || event.button !== 0 || event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return
    event.preventDefault()
    void router.navigate({ href: to })
  }
  return <a {...rest} href={to} onClick={go} />
}

/** The same in the bar of pages: it tells where one is, and on a phone, where the bar is wider than the screen, it comes into view. */
export function PageTo({ to, exact = false, ...rest }: Props & { exact?: boolean }) {
  const here = useRouterState({ select: (state) => (exact ? state.location.pathname === to : state.location.pathname.startsWith(to)) })
  const link = useRef<HTMLAnchorElement>(null)
  useEffect(() => {
    if (here) link.current?.scrollIntoView?.({ block: 'nearest', inline: 'center' })
  }, [here])
  return <To {...rest} ref={link} to={to} className={here ? 'active' : undefined} aria-current={here ? 'page' : undefined} />
}
