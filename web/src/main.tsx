import '@fontsource-variable/commissioner'
import { QueryClient, QueryClientProvider } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { BrowserRouter, Route, Routes } from 'react-router'
import { App } from './app/App'
import { Door } from './app/Door'
import { QUERIES } from './app/askedAgain'
import { PhoneScreen } from './features/phone/PhoneScreen'
import './style.css'

const queries = new QueryClient({
  defaultOptions: { queries: QUERIES, mutations: { networkMode: 'always' } },
})

// What this page would load later belongs to an older version by now: take the new one, nothing is lost by it.
window.addEventListener('vite:preloadError', (event) => {
  event.preventDefault()
  window.location.reload()
})
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  void navigator.serviceWorker.register('/sw.js').catch(() => undefined)

const root = document.getElementById('root')
if (!root) throw new Error('index.html has no #root')
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <Routes>
          <Route path="phone/:token" element={<PhoneScreen />} />
          <Route
            path="*"
            element={
              <Door>
                <App />
              </Door>
            }
          />
        </Routes>
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>,
)
