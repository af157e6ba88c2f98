import { readFileSync } from 'node:fs'
import { join } from 'node:path'

/** Put in when it is built; undeclared where its sources run. */
declare const BUILT_VERSION: string | undefined

/** Of this receiver, however it is started. */
export const version: string =
  typeof BUILT_VERSION === 'undefined'
    ? (JSON.parse(readFileSync(join(import.meta.dirname, '../../package.json'), 'utf8')) as { version: string }).version
    : BUILT_VERSION
