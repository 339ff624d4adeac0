import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'
import { VitePWA } from 'vite-plugin-pwa'

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src/kept',
      filename: 'sw.ts',
      injectRegister: false,
      injectManifest: { globPatterns: ['**/*.{html,js,css,woff2,svg,png}'] },
      manifest: {
        name: 'Dapwick',
        short_name: 'Dapwick',
        description: 'Measures a dog’s head from photos and plans its outline before the first cut.',
        id: '/',
        start_url: '/',
        display: 'standalone',
        background_color: '#f5f0e2',
        theme_color: '#f2c230',
        icons: [
          { src: '/icons/mark-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icons/mark-512.png', sizes: '512x512', type: 'image/png' },
          { src: '/icons/mark-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
    }),
  ],
  server: { proxy: { '/api': 'http://127.0.0.1:8350' } },
  build: { target: 'es2022' },
})
