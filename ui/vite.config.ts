import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

// The Go server the development page talks to.
const server = process.env.KEEN_CROCK_SERVER ?? 'http://127.0.0.1:8420'

export default defineConfig({
  plugins: [vue()],
  server: {
    port: 5173,
    host: '127.0.0.1',
    proxy: { '/api': { target: server, changeOrigin: true, headers: { origin: server } } },
  },
  build: { outDir: 'dist', emptyOutDir: true, assetsInlineLimit: 0, modulePreload: { polyfill: false } },
  test: { environment: 'happy-dom', include: ['src/**/*.test.ts'] },
})
