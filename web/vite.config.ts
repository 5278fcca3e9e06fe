import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { lingui } from '@lingui/vite-plugin'
import { babel } from '@rollup/plugin-babel'
import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import type { Plugin } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'
import { defineConfig } from 'vitest/config'

const contract = createHash('sha256').update(readFileSync('openapi.json')).digest('hex').slice(0, 12)

/** Sentences in our code become what a catalogue can be asked for; the English stays where it stands. */
function words(): Plugin {
  const plugin = babel({
    include: 'src/**/*.{ts,tsx}',
    extensions: ['.ts', '.tsx'],
    babelHelpers: 'bundled',
    babelrc: false,
    configFile: false,
    parserOpts: { plugins: ['typescript', 'jsx'] },
    plugins: [['@lingui/babel-plugin-lingui-macro', { stripMessageField: false }]],
  })
  return { ...(plugin as Plugin), enforce: 'pre' }
}

export default defineConfig({
  define: { __CONTRACT__: JSON.stringify(contract) },
  plugins: [
    words(),
    lingui(),
    react(),
    tailwindcss(),
    VitePWA({
      // a new release waits until the person takes it: nothing typed is lost to a reload
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Warm Draft',
        short_name: 'Warm Draft',
        description: 'Where the air is held up, and the proof that it moves again.',
        display: 'standalone',
        start_url: '/jobs',
        background_color: '#f5f0e6',
        theme_color: '#f5f0e6',
        icons: [{ src: '/mark.svg', sizes: 'any', type: 'image/svg+xml', purpose: 'any' }],
      },
      workbox: {
        globPatterns: ['**/*.{js,css,html,svg,woff2}'],
        navigateFallback: '/index.html',
        // pages of the server's own: a record by its link, a calendar, the end of reminders
        navigateFallbackDenylist: [/^\/(api|r|calendar|no-more-mail)\//],
        runtimeCaching: [
          {
            // a photo never changes: its address is what is in it
            urlPattern: ({ url }) => url.pathname.startsWith('/api/v1/photos/'),
            handler: 'CacheFirst',
            options: { cacheName: 'photos', expiration: { maxEntries: 300 } },
          },
        ],
      },
    }),
  ],
  build: { target: 'es2023', modulePreload: { polyfill: false } },
  test: {
    setupFiles: ['src/app/language.ts'],
    // a document takes a second to make: only what is drawn gets one, and who asks for it in its first line
    projects: [
      { extends: true, test: { name: 'logic', environment: 'node', include: ['src/**/*.test.ts'] } },
      { extends: true, test: { name: 'drawn', environment: 'jsdom', include: ['src/**/*.test.tsx'] } },
    ],
  },
})
