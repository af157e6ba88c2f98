import { resolve } from 'node:path'
import { defineConfig } from 'vite'

const at = (path: string) => resolve(import.meta.dirname, path)

/** What the visitors' script fetches for a rehearsal alone, beside it. */
export default defineConfig({
  publicDir: false,
  build: {
    outDir: at('dist/visitors'),
    emptyOutDir: false,
    target: 'es2022',
    lib: { entry: at('src/runtime/rehearsal.ts'), formats: ['es'], fileName: () => 'rehearsal.js' },
  },
})
