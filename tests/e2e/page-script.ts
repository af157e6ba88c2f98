import { resolve } from 'node:path'
import { build, type Rolldown } from 'vite'

/** A file beside this one, with what it imports, as one script for a page, where its exports are under `name`. */
export async function pageScript(file: string, name: string): Promise<string> {
  const built = await build({
    configFile: false,
    logLevel: 'silent',
    define: { 'process.env.NODE_ENV': '"production"' },
    build: { write: false, lib: { entry: resolve(import.meta.dirname, file), formats: ['iife'], name } },
  })
  return (built as Rolldown.RolldownOutput[])[0]!.output[0].code
}
