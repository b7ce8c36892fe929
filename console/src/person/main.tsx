import '@fontsource-variable/atkinson-hyperlegible-next/index.css'
import '@fontsource-variable/atkinson-hyperlegible-mono/index.css'
import '../tokens.css'
import './person.css'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { Refused } from '../api/client'
import { Door } from './Door'

const dark = window.matchMedia('(prefers-color-scheme: dark)')
const dress = () => {
  document.documentElement.dataset.mantineColorScheme = dark.matches ? 'dark' : 'light'
}
dress()
dark.addEventListener('change', dress)

const queries = new QueryClient({
  // Without a network a try fails at once and says so; nobody is left waiting for one.
  defaultOptions: {
    mutations: { networkMode: 'always' },
    queries: { networkMode: 'always', retry: (failures, error) => !(error instanceof Refused && error.status < 500) && failures < 3 },
  },
})
const root = document.getElementById('root')
if (!root) throw new Error('The page has no root.')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Door />
    </QueryClientProvider>
  </StrictMode>,
)
