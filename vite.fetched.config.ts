import { resolve } from 'node:path'
import { defineConfig } from 'vite'

const at = (path: string) => resolve(import.meta.dirname, path)
const fetched = 'rehearsal pop-up puzzle spelling again seen frame sending onward restore late'
const names = fetched.split(' ')

/** Lent nothing by the script: each brings what it needs, and is built by itself. */
const apart = ['rules', 'place']

/**
 * What the visitors' script fetches beside it where it is needed: a file each, none of which needs another.
 * `--mode rules` and `--mode place` build these two.
 */
export default defineConfig(({ mode }) => ({
  publicDir: false,
  build: {
    outDir: at('dist/visitors'),
    emptyOutDir: false,
    target: 'es2022',
    // A library would keep its white space, for others to build on; this goes to visitors.
    rolldownOptions: { output: { minify: true } },
    lib: {
      entry: Object.fromEntries(
        (apart.includes(mode) ? [mode] : names).map((name) => [name, at(`src/runtime/${name}.ts`)]),
      ),
      formats: ['es'],
      fileName: (_, name) => `${name}.js`,
    },
  },
  plugins: [
    {
      name: 'one-file-each',
      generateBundle(_, bundle) {
        const more = Object.values(bundle).filter((file) => file.type === 'chunk' && !file.isEntry)
        if (more.length > 0) this.error(`Shared by several: ${more.map(({ fileName }) => fileName).join(', ')}`)
      },
    },
  ],
}))
