import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import { defineConfig } from 'vite'

const at = (path: string) => resolve(import.meta.dirname, path)

const { version } = JSON.parse(readFileSync(at('package.json'), 'utf8')) as { version: string }

/** The Node programs: receiver and stand-ins. */
export default defineConfig({
  // Everything in a few files, which start in half the time of many; but for the store, which has binaries of its own, and what drives a browser, which finds its files beside it.
  // Its bundle holds its data; its modules would look for them in files beside them.
  resolve: { alias: [{ find: /^css-tree$/, replacement: at('node_modules/css-tree/dist/csstree.esm.js') }] },
  define: { BUILT_VERSION: JSON.stringify(version) },
  ssr: { noExternal: true, external: ['libsql', 'playwright-core', 'puppeteer-core'] },
  build: {
    ssr: true,
    outDir: at('dist/server'),
    emptyOutDir: true,
    target: 'node20',
    // A quarter less to read at each start.
    minify: true,
    rollupOptions: {
      input: {
        receiver: at('src/receiver/main.ts'),
        // What it starts, for a program that starts it itself.
        'start-receiver': at('src/receiver/start.ts'),
        'mail-thread': at('src/receiver/mail/mail-thread.ts'),
        'copy-thread': at('src/receiver/store/copy-thread.ts'),
        'check-thread': at('src/receiver/care/check-thread.ts'),
        'browser-process': at('src/receiver/browser/process.ts'),
        'site-thread': at('src/receiver/crawl/site-thread.ts'),
        'feed-thread': at('src/receiver/letters/feed-thread.ts'),
        'service-thread': at('src/receiver/hand-over/service-thread.ts'),
        'page-thread': at('src/receiver/rehearsals/page-thread.ts'),
        sites: at('src/standins/sites/main.ts'),
        mailbox: at('src/standins/mailbox/main.ts'),
        service: at('src/standins/service/main.ts'),
      },
      output: { entryFileNames: '[name].js', chunkFileNames: 'shared-[name].js' },
    },
  },
})
