import { brotliCompressSync } from 'node:zlib'

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

/** Presses scripts and styles once, as tightly as it goes: the server hands them out as they are. */
function pressed(): Plugin {
  return {
    name: 'pressed',
    apply: 'build',
    generateBundle: {
      order: 'post',
      handler(_, bundle) {
        for (const [name, file] of Object.entries(bundle)) {
          if (!/\.(js|css)$/.test(name)) continue
          const text = Buffer.from(file.type === 'chunk' ? file.code : file.source)
          this.emitFile({ type: 'asset', fileName: `${name}.br`, source: brotliCompressSync(text) })
        }
      },
    },
  }
}

export default defineConfig({
  plugins: [vue(), shellList(), pressed()],
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
    rolldownOptions: {
      output: {
        // what every view needs, in one file: on a slow line each file costs a round trip
        codeSplitting: {
          groups: [
            {
              name: 'base',
              test: /node_modules[\\/](vue|@vue|vue-router|@tanstack|openapi-fetch|dayjs|@ant-design[\\/]cssinjs|@emotion|stylis|@ctrl|@babel)[\\/]/,
            },
          ],
        },
      },
    },
  },
  test: {
    environment: 'happy-dom',
    include: ['src/**/*.test.ts'],
    isolate: false,
    setupFiles: './vitest.setup.ts',
  },
})
