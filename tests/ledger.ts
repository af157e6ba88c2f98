import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { type Ledger, openLedger } from '../src/receiver/ledger'
import { readSettings, type Settings } from '../src/receiver/settings'
import { openStore } from '../src/receiver/subjects'

/** An empty ledger in a folder of its own, which goes when it is closed. */
export async function newLedger(now: () => number = Date.now): Promise<Ledger> {
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-'))
  const ledger = await openLedger(await openStore(folder), now)
  const close = async () => {
    await ledger.close()
    rmSync(folder, { recursive: true, force: true })
  }
  return { ...ledger, close }
}

/** Settings as an environment gives them. */
export function settingsFor(environment: Record<string, string> = {}, folder = '/nowhere'): Settings {
  const reading = readSettings(environment, folder)
  if (!reading.ok) throw new Error(reading.message)
  return reading.settings
}
