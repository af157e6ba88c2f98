import { rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/**
 * Where workers keep what every test begins from, for the one that takes their place after another project or a failure.
 * Named by the process that starts them, made by the first that has something to keep.
 */
export const seedsFolder = (process.env.ASKBOX_SEEDS ??= join(tmpdir(), `ask-box-seeds-${process.pid}`))

/** Playwright calls it when all tests are done. */
export default (): void => rmSync(seedsFolder, { recursive: true, force: true })
