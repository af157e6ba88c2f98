import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { brotliCompressSync, constants, gzipSync } from 'node:zlib'
import vue from '@vitejs/plugin-vue'
import markdown from 'markdown-it'
import { defineConfig } from 'vite'
import { receiverPaths } from './src/receiver/http/paths.ts'

const port = Number(process.env.ASKBOX_PORT || 4310)
const outDir = resolve(import.meta.dirname, 'dist/workshop')

/** The workshop, for the owner's browser. */
/** What routes are for is told by the receiver's OpenAPI document; in the workshop it would only be loaded with the first screen. */
function withoutSummaries(code: string, id: string) {
  return /\/src\/core\/api\/[\w-]+\.ts$/.test(id)
    ? { code: code.replaceAll(/summary:\s*'(?:[^'\\]|\\.)*',/g, "summary: '',"), map: null }
    : undefined
}

/** Colours of single buttons are worked out by tinycolor, 6 KB of every first screen: ours have the workshop's own, by CSS. */
function withoutButtonColours(_: string, id: string) {
  return id.endsWith('/button/src/button-custom.mjs')
    ? {
        code: "import { computed } from 'vue'\nexport const darken = (colour) => colour\nexport const useButtonCustomStyle = () => computed(() => ({}))\n",
        map: null,
      }
    : undefined
}

/** Interpolations show what strangers typed: see display-text.ts. */
function withIsolatedTexts(code: string, id: string) {
  const imported = 'toDisplayString as _toDisplayString'
  if (!/\/src\/workshop\/.*\.vue(?:$|\?)/.test(id) || !code.includes(imported)) return undefined
  const file = JSON.stringify(resolve(import.meta.dirname, 'src/workshop/controls/display-text.ts'))
  const without = code.replace(new RegExp(`${imported},?`), '')
  return { code: `import { displayText as _toDisplayString } from ${file}\n${without}`, map: null }
}

export default defineConfig({
  root: resolve(import.meta.dirname, 'src/workshop'),
  plugins: [
    { name: 'markdown', enforce: 'pre', transform: markdownAsComponent },
    { name: 'no-summaries', apply: 'build', enforce: 'pre', transform: withoutSummaries },
    { name: 'no-button-colours', apply: 'build', transform: withoutButtonColours },
    vue({ include: [/\.vue$/, /\.md$/] }),
    { name: 'isolated-texts', enforce: 'post', transform: withIsolatedTexts },
    { name: 'no-chunk-cycles', apply: 'build', generateBundle: refuseCycles },
    { name: 'compressed-once', apply: 'build', writeBundle: compressAll },
  ],
  resolve: {
    alias: { 'async-validator': resolve(import.meta.dirname, 'src/workshop/controls/no-rules.ts') },
  },
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
          // The first screen in one file; packages by the screens that want them; what screens share of ours in one: left
          // alone, the form's page is a hundred files. None of these imports one that comes later, so no file waits for
          // itself.
          groups: [
            { name: 'start', tags: ['$initial'], priority: 4 },
            // What the receiver's answers are read by, with all of its own: the first screen fetches it, and nothing besides.
            {
              name: 'connection',
              test: /src\/core\/connection|src\/core\/letter\/sending|node_modules\/(?:url-template|http-link-header|jsonpointer|@noble)\//,
              minShareCount: 2,
              priority: 3,
            },
            {
              name: 'packages',
              test: /node_modules/,
              minShareCount: 2,
              entriesAware: true,
              entriesAwareMergeThreshold: 30_000,
              priority: 2,
            },
            { name: 'shared', minShareCount: 2, priority: 1 },
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

/** Help is written once, as Markdown, and becomes components whose pictures are files of the build. */
function markdownAsComponent(text: string, id: string): string | undefined {
  return id.endsWith('.md') ? `<template><div>${markdown().render(text)}</div></template>` : undefined
}

/** Files that import each other run in an order in which one needs what the other has not made yet: seen only in the browser. */
function refuseCycles(
  this: { error(message: string): never },
  _: unknown,
  bundle: Record<string, { type: string; imports?: string[] }>,
): void {
  const left = new Map(
    Object.entries(bundle).flatMap(([name, { type, imports = [] }]) => (type === 'chunk' ? [[name, imports]] : [])),
  ) as Map<string, string[]>
  // What imports nothing that is left is in no cycle.
  for (let before = -1; before !== left.size;) {
    before = left.size
    for (const [name, imports] of left) if (!imports.some((one) => left.has(one))) left.delete(name)
  }
  if (left.size > 0) this.error(`These files import each other: ${[...left.keys()].join(', ')}`)
}

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
