import { defineConfig } from 'vite'

// The service worker: one file at the root, so that it may speak for every address, and
// without imports, which not every browser takes there.
export default defineConfig({
  build: {
    outDir: 'dist',
    emptyOutDir: false,
    copyPublicDir: false,
    rollupOptions: {
      input: 'src/worker.ts',
      output: { format: 'iife', entryFileNames: 'worker.js' },
    },
  },
  define: { 'process.env.NODE_ENV': '"production"' },
})
