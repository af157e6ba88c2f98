import { resolve } from 'node:path'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

/** The workshop, for the owner's browser. */
export default defineConfig({
  root: resolve(import.meta.dirname, 'src/workshop'),
  plugins: [vue()],
  build: {
    outDir: resolve(import.meta.dirname, 'dist/workshop'),
    emptyOutDir: true,
    // What was built, for the copy that opens the workshop while the receiver is out of reach.
    manifest: 'files.json',
    target: 'es2022',
    // Fonts stay files of their own, so that only the characters in use are loaded.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
  },
  server: {
    port: 4310,
    strictPort: true,
    host: 'localhost',
    proxy: Object.fromEntries(
      [
        '/api',
        '/join',
        '/answer',
        '/health',
        '/page/',
        '/frame/',
        '/picture/',
        '/font/',
        '/form/',
        '/askbox.js',
        '/rehearsal',
      ].map((path) => [path, { target: 'http://127.0.0.1:4311', changeOrigin: false }]),
    ),
  },
})
