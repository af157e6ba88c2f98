import { writeWorkspace } from '#core/workspace'
import { exportWorkspace, writeSetting } from '../db'
import { now } from '../moment'

/** Saves everything in this browser as a workspace file in the downloads folder. */
export async function downloadBackup(): Promise<void> {
  const at = now()
  const text = writeWorkspace(await exportWorkspace(at))
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }))
  link.download = `ask-box-${at.slice(0, 16).replace(/[T:]/g, '-')}.json`
  link.click()
  // The download has its own hold on the data by the next turn.
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
  await writeSetting('backupAt', at)
}
