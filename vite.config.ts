import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import { receiverPaths } from './src/receiver/public/paths.ts'

const port = Number(process.env.ASKBOX_PORT || 4310)
const outDir = resolve(import.meta.dirname, 'dist/workshop')

/** The workshop, for the owner's browser. */
export default defineConfig({
  root: resolve(import.meta.dirname, 'src/workshop'),
  plugins: [vue(), { name: 'compressed-once', apply: 'build', writeBundle: compressAll }],
  build: {
    outDir,
    emptyOutDir: true,
    // What was built, for the copy that opens the workshop while the receiver is out of reach.
    manifest: 'files.json',
    target: 'es2022',
    // Fonts stay files of their own, so that only the characters in use are loaded.
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 700,
    rolldownOptions: {
      output: {
        codeSplitting: {
          // The first screen in one file, and few for each of the others: left alone, the form's page is a hundred.
          groups: [
            { name: 'start', tags: ['$initial'], priority: 2 },
            { name: 'shared', minShareCount: 2, entriesAware: true, entriesAwareMergeThreshold: 30_000, priority: 1 },
          ],
        },
      },
    },
  },
  server: {
    port,
    strictPort: true,
    host: 'localhost',
    // The receiver runs beside it; see scripts/dev.mjs. Folders of the workshop's sources are named as some of its paths.
    proxy: Object.fromEntries(
      receiverPaths.map((path) => [
        path,
        {
          target: `http://127.0.0.1:${port + 1}`,
          changeOrigin: false,
          bypass: ({ url = '' }) => (/\.(?:ts|vue|css)(?:\?|$)/.test(url) ? url : undefined),
        },
      ]),
    ),
  },
})

/** Compressed when it is built: at each request, it takes the receiver longer than all else that it does for one. */
function compressAll() {
  for (const name of readdirSync(outDir, { recursive: true, encoding: 'utf8' })) {
    if (!/\.(js|css|html|json|svg)$/.test(name)) continue
    const file = join(outDir, name)
    const bytes = readFileSync(file)
    writeFileSync(`${file}.gz`, gzipSync(bytes, { level: 9 }))
    writeFileSync(`${file}.br`, brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }))
  }
}
