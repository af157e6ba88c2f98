import demoFile from '../../../demo/cloudberry-hill.json?url'
import { shiftedTo, type Workspace } from '#core/workspace'
import { now } from '../clock'
import { database, readSetting, writeSetting } from '../data'
import { openFile } from '../settings/backup'

/** Where the demo's receiver would be, so that its codes can be looked at; nothing answers there. */
const DEMO_RECEIVER = 'https://forms.cloudberryhill.example'
/** Its sites are pretend sites of the whole demo on this computer, which need not run here. */
const DEMO_SITES = 'https://www.cloudberryhill.example'

/** Fills the demo's own database, the first time it is looked at. Its newest moment is always yesterday's or today's. */
export async function fillDemo(): Promise<void> {
  if ((await readSetting('publicUrl')) !== undefined) return
  const text = await (await fetch(demoFile)).text()
  const placed = text.replaceAll('http://127.0.0.1:4320', DEMO_SITES)
  const workspace = shiftedTo(now(), JSON.parse(placed) as Workspace)
  const file = new File([JSON.stringify(workspace)], 'demo.json', { type: 'application/json' })
  await openFile(file, () => {}).result
  await writeSetting('publicUrl', DEMO_RECEIVER)
}

export async function closeDemo(): Promise<void> {
  await database.delete()
}
