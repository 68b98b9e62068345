import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: 'es2022', assetsInlineLimit: 0, outDir: 'built/page', emptyOutDir: true },
  // The program fills it in, anew with every answer.
  html: { cspNonce: '{{.Nonce}}' },
  server: { proxy: { '/api': { target: 'http://127.0.0.1:7460', ws: true } } },
})
