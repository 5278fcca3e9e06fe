import { readdirSync } from 'node:fs'
import { defineConfig } from '@lingui/cli'
import { formatter } from '@lingui/format-po'

// a language is a file: whoever adds one puts an empty NAME.po there and runs `npm run words`
const locales = readdirSync('src/languages')
  .filter((file) => file.endsWith('.po'))
  .map((file) => file.slice(0, -3))

export default defineConfig({
  sourceLocale: 'en',
  locales: ['en', ...locales],
  /** Every word marked, to see what cannot be translated: made only in a test. */
  pseudoLocale: 'qps',
  catalogs: [{ path: '<rootDir>/src/languages/{locale}', include: ['src'], exclude: ['**/*.test.*', 'src/test/**'] }],
  format: formatter({ origins: false }),
})
