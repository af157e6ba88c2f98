import { cpSync, existsSync, mkdirSync, readdirSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { JournalId } from '#core/ids'
import { isDamage } from '../store'
import type { CheckedCopy } from './check-copy'
import { hasPassed } from '../clock'
import type { Alerts } from './alerts'
import type { CareFile } from './kept'
import { NEWEST_FILE, newestText } from './store-check'

const DAY_MS = 86_400_000
/** A copy is due a day after the last one; a failed try is made again after an hour. */
const AGAIN_MS = 3_600_000
const UNFINISHED = '.unfinished'
/** Folders of these copies alone: those that somebody made by hand, in the same place, are theirs. */
const COPY_NAME = /^askbox-daily-\d{4}-\d{2}-\d{2}T\d{2}-\d{2}-\d{2}$/

export interface BackupParts {
  care: CareFile
  alerts: Alerts
  dataFolder: string
  journal(): Promise<JournalId>
  /** Copies the store, and reads the copy through: a store that is damaged is told of there. */
  copyTo(file: string): Promise<CheckedCopy>
  now(): number
}

/** Copies of the store that make themselves: one a day, so many kept, each opened and read through before it counts. */
export class Backups {
  private going: Promise<boolean> | null = null

  constructor(private readonly parts: BackupParts) {}

  /** Takes away what a process left that ended while it made a copy: it has everybody's addresses, and fills the disk. */
  clearUnfinished(): void {
    const folder = this.folder()
    if (!existsSync(folder)) return
    for (const name of readdirSync(folder))
      if (name.endsWith(UNFINISHED) && COPY_NAME.test(name.slice(0, -UNFINISHED.length)))
        rmSync(join(folder, name), { recursive: true, force: true })
  }

  async look(): Promise<void> {
    const { backups, lastBackup, backupProblem } = this.parts.care.read()
    const now = this.parts.now()
    const isDue = lastBackup === null || hasPassed(lastBackup.at, DAY_MS, now)
    const waits = backupProblem !== null && !hasPassed(backupProblem.at, AGAIN_MS, now)
    if (backups.isOn && isDue && !waits) await this.make()
  }

  folder(): string {
    return this.parts.care.read().backups.folder || join(this.parts.dataFolder, 'backups')
  }

  /** When each of those was made that lie in the folder, the newest first. */
  copies(): number[] {
    const folder = this.folder()
    if (!existsSync(folder)) return []
    return readdirSync(folder)
      .filter((name) => COPY_NAME.test(name))
      .map((name) =>
        Date.parse(`${name.slice('askbox-daily-'.length).replace(/T(\d\d)-(\d\d)-(\d\d)$/, 'T$1:$2:$3')}Z`),
      )
      .toSorted((one, other) => other - one)
  }

  /** Makes one now; false where it could not be made, with the reason kept. Asked for while one is made, it is that one. */
  make(): Promise<boolean> {
    this.going ??= this.makeOne().finally(() => (this.going = null))
    return this.going
  }

  private async makeOne(): Promise<boolean> {
    const { care, alerts, now } = this.parts
    const at = now()
    try {
      const { path, entries } = await this.copyInto(this.folder(), at)
      const { size } = statSync(join(path, 'askbox.sqlite'))
      await care.keep({ lastBackup: { at, path, bytes: size, entries }, backupProblem: null })
      await alerts.clear('backup')
      this.forgetOld()
      return true
    } catch (error) {
      const said = wordsFor(error)
      await care.keep({ backupProblem: { at, said } })
      // That is no matter of room or of folders, and told by itself.
      if (isDamage(error)) return false
      await alerts.raise('backup', {
        subject: 'No backup could be made',
        text: `The daily copy of your sign-ups and lists could not be made in ${this.folder()}.\n\n${said}\n\nWhat to do: make room there, or choose another folder in Settings, under Backups, and press “Make one now”. Nothing is lost meanwhile: sign-ups go on.`,
      })
      return false
    }
  }

  private async copyInto(folder: string, at: number): Promise<{ path: string } & CheckedCopy> {
    const path = join(folder, `askbox-daily-${new Date(at).toISOString().slice(0, 19).replaceAll(':', '-')}`)
    const unfinished = `${path}${UNFINISHED}`
    this.clearUnfinished()
    try {
      mkdirSync(unfinished, { recursive: true, mode: 0o700 })
      const file = join(unfinished, 'askbox.sqlite')
      const checked = await this.parts.copyTo(file)
      const newest = { journal: await this.parts.journal(), n: checked.entries, mark: checked.mark }
      writeFileSync(join(unfinished, NEWEST_FILE), newestText(newest), { mode: 0o600 })
      // Gifts are named after their bytes and never change.
      const gifts = join(this.parts.dataFolder, 'gifts')
      if (existsSync(gifts)) cpSync(gifts, join(unfinished, 'gifts'), { recursive: true })
      rmSync(path, { recursive: true, force: true })
      renameSync(unfinished, path)
      return { path, ...checked }
    } catch (error) {
      rmSync(unfinished, { recursive: true, force: true })
      throw error
    }
  }

  /** The oldest beyond those that are kept. What else is in the folder is somebody's own. */
  private forgetOld(): void {
    const folder = this.folder()
    const copies = readdirSync(folder)
      .filter((name) => COPY_NAME.test(name))
      .sort()
    for (const name of copies.slice(0, -this.parts.care.read().backups.keep))
      rmSync(join(folder, name), { recursive: true, force: true })
  }
}

function wordsFor(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException
  if (code === 'ENOSPC' || code === 'EDQUOT') return 'There is no room left on that disk.'
  if (code === 'EACCES' || code === 'EPERM' || code === 'EROFS') return 'Ask Box may not write there.'
  if (code === 'ENOENT' || code === 'ENOTDIR') return 'There is no such folder, and it could not be made.'
  return message.replaceAll(/\s+/g, ' ').slice(0, 300)
}
