import { MantineProvider } from '@mantine/core'
import { Notifications } from '@mantine/notifications'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { createMemoryHistory, createRootRoute, createRoute, createRouter, RouterProvider } from '@tanstack/react-router'
import { render } from '@testing-library/react'
import userEvent, { PointerEventsCheckLevel } from '@testing-library/user-event'
import type { ReactNode } from 'react'
import { ZoneProvider } from './shared/zone'
import { RefreshProvider } from './shell/refresh'

/** A client that asks once, so that a refusal is seen at once. */
export const queriesOfTest = () => new QueryClient({ defaultOptions: { queries: { retry: false } } })

/** Somebody at the keyboard, in no hurry and with no wait: where a pointer lands is not for a page without a layout. */
export const userOfTest = () => userEvent.setup({ delay: null, pointerEventsCheck: PointerEventsCheckLevel.Never })

/** What stands around every part of the console, without the colours: whoever asks for a role has each style worked out. */
export function Around({ queries, children }: { queries?: QueryClient; children: ReactNode }) {
  return (
    <MantineProvider env="test" withCssVariables={false} withGlobalClasses={false}>
      <Notifications />
      <QueryClientProvider client={queries ?? queriesOfTest()}>
        <ZoneProvider value="UTC">{children}</ZoneProvider>
      </QueryClientProvider>
    </MantineProvider>
  )
}

/** Shows a page as the console does: of the refresh 'spring', whose walls show UTC; behind the other paths lie empty pages. */
export function showPage(at: string, Page: () => ReactNode, others: string[] = [], queries = queriesOfTest()) {
  const root = createRootRoute()
  const [path = at] = at.split('?')
  const routes = [path, ...others].map((p) =>
    createRoute({ getParentRoute: () => root, path: p, component: p === path ? Page : () => null }),
  )
  const router = createRouter({ routeTree: root.addChildren(routes), history: createMemoryHistory({ initialEntries: [at] }) })
  render(
    <Around queries={queries}>
      <RefreshProvider
        value={{
          key: 'spring',
          name: 'Spring',
          zone: 'UTC',
          starts: '2026-12-07',
          days: 3,
          swaps: 3,
          head: '1:a',
          oldHoldDays: 14,
          asksSecond: false,
        }}
      >
        <RouterProvider router={router as never} />
      </RefreshProvider>
    </Around>,
  )
  return router
}
