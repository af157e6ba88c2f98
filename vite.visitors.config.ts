import { copyFileSync, mkdirSync } from 'node:fs'
import { resolve } from 'node:path'
import { defineConfig } from 'vite'

const at = (path: string) => resolve(import.meta.dirname, path)
const font = 'node_modules/@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2'

/** What visitors get besides pages: the script and the shipped font. */
export default defineConfig({
  publicDir: false,
  build: {
    outDir: at('dist/visitors'),
    // Beside what is built into it by itself; while files are watched, that is there already.
    emptyOutDir: !process.argv.includes('--watch'),
    // What adopts style sheets knows this much.
    target: 'es2022',
    lib: { entry: at('src/runtime/askbox.ts'), formats: ['iife'], name: 'AskBox', fileName: () => 'askbox.js' },
  },
  plugins: [
    {
      name: 'shipped-font',
      closeBundle() {
        mkdirSync(at('dist/visitors'), { recursive: true })
        copyFileSync(at(font), at('dist/visitors/ask-box-sans.woff2'))
      },
    },
  ],
})
