import { copyFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { defineConfig } from 'vite'

const at = (path: string) => resolve(import.meta.dirname, path)
const font = 'node_modules/@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2'

/** What visitors get besides pages: the script and the shipped font. */
export default defineConfig({
  publicDir: false,
  build: {
    outDir: at('dist/visitors'),
    emptyOutDir: true,
    // What adopts style sheets knows this much.
    target: 'es2022',
    lib: { entry: at('src/runtime/askbox.ts'), formats: ['iife'], name: 'AskBox', fileName: () => 'askbox.js' },
  },
  plugins: [
    {
      name: 'shipped-font',
      writeBundle({ dir }) {
        copyFileSync(at(font), resolve(dir!, 'ask-box-sans.woff2'))
      },
    },
  ],
})
