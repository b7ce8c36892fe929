import '@testing-library/jest-dom/vitest'
import { cleanup, configure } from '@testing-library/react'
import { afterEach } from 'vitest'

afterEach(cleanup)

// A busy machine may take longer than a second to draw a page for the first time.
configure({ asyncUtilTimeout: 10_000 })

Object.defineProperty(window, 'matchMedia', {
  value: (query: string) => ({
    matches: false,
    media: query,
    addEventListener() {},
    removeEventListener() {},
    addListener() {},
    removeListener() {},
  }),
})
window.ResizeObserver = class {
  observe() {}
  unobserve() {}
  disconnect() {}
}
Object.defineProperty(document, 'fonts', { value: new EventTarget() })
window.scrollTo = () => undefined
Element.prototype.scrollIntoView = () => undefined

// There are no style sheets here: what an element says itself, and whether it or one around it hides it, is all its style. Working
// out the rest of it anew for each question took half of these tests' time.
window.getComputedStyle = (element: Element) => {
  const own = (element as HTMLElement).style
  const isHidden = element.hasAttribute('hidden') || element.matches('script, style, template, dialog:not([open])')
  const inherited = (name: 'visibility' | 'pointerEvents') => {
    for (let at: Element | null = element; at; at = at.parentElement) {
      const said = (at as HTMLElement).style?.[name]
      if (said) return said
    }
    return name === 'visibility' ? 'visible' : 'auto'
  }
  const worked: Record<string, string> = {
    display: isHidden ? 'none' : own?.display || 'block',
    visibility: inherited('visibility'),
    pointerEvents: inherited('pointerEvents'),
    'pointer-events': inherited('pointerEvents'),
  }
  const worth = (name: string) => worked[name] ?? own?.getPropertyValue(name) ?? ''
  return new Proxy(own ?? document.documentElement.style, {
    get: (style, name) => {
      if (name === 'getPropertyValue') return worth
      if (typeof name === 'string' && name in worked) return worked[name]
      const value = Reflect.get(style, name, style)
      return typeof value === 'function' ? value.bind(style) : value
    },
  })
}
