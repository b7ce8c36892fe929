/// <reference types="vitest/config" />
import react from '@vitejs/plugin-react'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vite'

// As long as a browser stays signed in without a request.
const kept = 12 * 60 * 60

export default defineConfig(({ mode }) => ({
  plugins: [
    react(),
    // What a technician needs at a desk without a network: the pages, and the answers that were read last.
    VitePWA({
      disable: mode === 'person',
      registerType: 'autoUpdate',
      injectRegister: false,
      manifest: {
        name: 'Yard Relay',
        short_name: 'Yard Relay',
        description: 'Swaps of computers, from desk to desk.',
        start_url: '/round',
        display: 'standalone',
        background_color: '#F4F2EC',
        theme_color: '#24566B',
        icons: [
          { src: '/favicon.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' },
          { src: '/icon-maskable.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'maskable' },
        ],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        // Plots are for a desk with a network. Only whole files of the library and of the plots: a part that both have may be of a page, too.
        globIgnores: ['**/OutlookPlot-*.js', '**/ProgressPlot-*.js', '**/ComposedChart-*.js', '**/CartesianGrid-*.js'],
        maximumFileSizeToCacheInBytes: 2_000_000,
        navigateFallback: '/index.html',
        navigateFallbackDenylist: [/^\/my(\/|$)/, /^\/api\//, /^\/(health|metrics|openapi|depot)(\/|$)/, /^\/organisation\//],
        cleanupOutdatedCaches: true,
        runtimeCaching: [
          {
            urlPattern: ({ url, request }) =>
              request.method === 'GET' &&
              /^\/api\/(me|refreshes|refreshes\/[^/]+\/(round|technicians|today|sites)|swaps\/[^/]+)$/.test(url.pathname),
            handler: 'NetworkFirst',
            options: {
              cacheName: 'yard-answers',
              networkTimeoutSeconds: 5,
              cacheableResponse: { statuses: [200] },
              expiration: { maxEntries: 200, maxAgeSeconds: kept, purgeOnQuotaError: true },
            },
          },
        ],
      },
    }),
  ],
  // Two programs, which share no files, as nobody opens both: the console, and after it ('--mode person') the small page of the person whose
  // computer is changed. What each reads first comes in one file: on a slow phone another file costs as much as ten kilobytes more.
  build: {
    outDir: 'dist',
    emptyOutDir: mode !== 'person',
    chunkSizeWarningLimit: 900,
    rolldownOptions: {
      input: mode === 'person' ? 'my.html' : 'index.html',
      output: { codeSplitting: { groups: [{ name: 'first', tags: ['$initial'] }] } },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:8420' } },
  // Each file has a world of its own, but not a program: what they all import is compiled once.
  test: {
    environment: 'jsdom',
    setupFiles: ['src/test-setup.ts'],
    testTimeout: 30_000,
    pool: 'vmThreads',
    maxWorkers: 2,
  },
}))
