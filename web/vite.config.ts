import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: 'es2023', modulePreload: { polyfill: false } },
  test: { environment: 'jsdom', include: ['src/**/*.test.{ts,tsx}'] },
})
