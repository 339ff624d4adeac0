import '@fontsource-variable/commissioner'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter } from 'react-router'
import { App } from './app/App'
import { Trouble } from './api/client'
import './style.css'

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => error instanceof Trouble && error.away && count < 20,
      retryDelay: 1500,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

const root = document.getElementById('root')
if (!root) throw new Error('index.html has no #root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
