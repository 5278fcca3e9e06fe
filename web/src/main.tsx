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
import './theme/theme.css'

const root = document.getElementById('root')
if (root) {
  await Promise.all([keep(queryClient, __CONTRACT__), speakAsLast()])
  createRoot(root).render(
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
