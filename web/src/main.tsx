import { QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { keep } from './api/kept'
import { queryClient } from './api/queries'
import { App } from './app/App'
import './theme/theme.css'

const root = document.getElementById('root')
if (root) {
  await keep(queryClient, __CONTRACT__)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  )
}
