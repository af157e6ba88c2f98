import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Where workers keep what every test begins from, for the one that takes their place after another project or a failure. */
export const seedsFolder = (process.env.ASKBOX_SEEDS ??= mkdtempSync(join(tmpdir(), 'ask-box-seeds-')))

/** Playwright calls it when all tests are done. */
export default (): void => rmSync(seedsFolder, { recursive: true, force: true })
