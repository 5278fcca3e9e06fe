import { i18n } from '@lingui/core'
import { I18nProvider } from '@lingui/react'
import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { keep } from './api/kept'
import { queryClient } from './api/queries'
import { App } from './app/App'
import { speakAsLast } from './app/language'
import { NotFetched } from './ui/fetched'
import './theme/theme.css'

/** Where a part did not come, the page says so itself. */
const onCaughtError = (error: unknown) => {
  if (!(error instanceof NotFetched)) console.error(error)
}

const root = document.getElementById('root')
if (root) {
  await Promise.all([keep(queryClient, __CONTRACT__), speakAsLast()])
  createRoot(root, { onCaughtError }).render(
    <StrictMode>
      <I18nProvider i18n={i18n}>
        <QueryClientProvider client={queryClient}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </I18nProvider>
    </StrictMode>,
  )
}
