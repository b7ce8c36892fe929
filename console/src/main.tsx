import './mantine.css'
import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import './tokens.css'
import './app.css'
import { MantineProvider } from '@mantine/core'
import { Notifications } from '@mantine/notifications'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { RouterProvider } from '@tanstack/react-router'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Refused } from './api/client'
import { createAppRouter, fetchAhead } from './router'
import { readFirst } from './shell/readFirst'
import { theme } from './theme'

const queries = new QueryClient({
  defaultOptions: {
    // Without a network the service worker has the last answers; nobody is left waiting for one.
    mutations: { networkMode: 'always' },
    queries: {
      networkMode: 'always',
      staleTime: 2_000,
      retry: (failures, error) => !(error instanceof Refused && error.status < 500) && failures < 3,
    },
  },
})
const router = createAppRouter(queries)
const place = document.getElementById('root')
if (!place) throw new Error('The page has no root.')

// A page of an older build that the service has no more: the newer one is loaded instead.
window.addEventListener('vite:preloadError', () => {
  const last = Number(sessionStorage.getItem('yard-reloaded'))
  // Where it cannot be had, the page says so: reloaded again and again it would say nothing.
  if (Date.now() - last < 60_000) return
  sessionStorage.setItem('yard-reloaded', String(Date.now()))
  window.location.reload()
})

window.addEventListener('load', () => setTimeout(fetchAhead, 3_000))

// Installed after the first page stands: it takes the pages along for desks without a network.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  window.addEventListener('load', () => void navigator.serviceWorker.register('/sw.js').catch(() => undefined))

const root = createRoot(place)
const draw = () =>
  root.render(
    <StrictMode>
      <MantineProvider theme={theme} defaultColorScheme="auto">
        <QueryClientProvider client={queries}>
          <Notifications position="bottom-right" autoClose={6000} />
          <RouterProvider router={router} />
        </QueryClientProvider>
      </MantineProvider>
    </StrictMode>,
  )

// Drawn once, with what it shows: each drawing costs a slow phone a third of a second. Whatever takes longer is not waited for.
// This is no await of this file: the files of most pages need this one, and would wait for it while it waits for them.
const first = Promise.all([readFirst(queries, window.location.pathname), router.load()]).catch(() => undefined)
void Promise.race([first, new Promise((late) => setTimeout(late, 1_500))]).then(draw)
