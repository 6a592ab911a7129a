import vue from '@vitejs/plugin-vue'
import type { Plugin } from 'vite'
import { defineConfig } from 'vitest/config'

// The Go server the development page talks to.
const server = process.env.KEEN_CROCK_SERVER ?? 'http://127.0.0.1:8420'

/** Lists the files of the page, for the service worker to keep. */
function shellList(): Plugin {
  return {
    name: 'shell-list',
    generateBundle(_, bundle) {
      const files = Object.keys(bundle).filter((f) => f.startsWith('assets/') && !f.endsWith('.woff'))
      this.emitFile({
        type: 'asset',
        fileName: 'shell.json',
        source: JSON.stringify(files.map((f) => `/${f}`).sort()),
      })
    },
  }
}

export default defineConfig({
  plugins: [vue(), shellList()],
  server: {
    port: 5173,
    host: '127.0.0.1',
    proxy: { '/api': { target: server, changeOrigin: true, headers: { origin: server } } },
  },
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.test.ts'],
    isolate: false,
    setupFiles: './vitest.setup.ts',
  },
})
