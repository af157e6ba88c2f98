import { existsSync, readFileSync, renameSync, rmSync, statfsSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { z } from 'zod'
import type { JournalId, MemberId } from '#core/ids'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import type { CountedMembers } from '../people'
import { isDamage } from '../store'
import type { CheckedCopy } from './check-copy'
import type { Alerts } from './alerts'
import { CARE_FILE, readKept, type CareFacts, type CareFile } from './kept'

/** Beside the store, so that a store that goes back, or is another one, is noticed. */
const newestSchema = z.strictObject({
  journal: z.string(),
  n: z.int(),
  mark: z.string(),
  /** How many rows of people there were then. */
  people: z.int().optional(),
})
export const NEWEST_FILE = 'newest.json'
/** Rows that are looked at together: some 100 ms. */
const MOST_ROWS = 20_000

export interface StoreCheckParts {
  care: CareFile
  alerts: Alerts
  ledger: Ledger
  dataFolder: string
  /** Reads a copy through; see `checkCopy`. */
  check(file: string): Promise<CheckedCopy>
}

/**
 * Looks whether the store is what was written into it: its file by a copy that is read through beside everything else, and
 * its end by what was noted of the newest entry.
 */
export class StoreCheck {
  private going: Promise<void> | null = null
  /** Id of the row that was looked at last; from the beginning after the last one. */
  private lookedAt = ''
  private isRoundWhole = true
  /** Null before they were counted. */
  private counted: CountedMembers | null = null

  constructor(private readonly parts: StoreCheckParts) {}

  /** Reads all of it through; asked for while it goes on, it is that one. */
  look(): Promise<void> {
    this.going ??= this.lookOnce().finally(() => (this.going = null))
    return this.going
  }

  private async lookOnce(): Promise<void> {
    const { dataFolder } = this.parts
    const { bavail, bsize } = statfsSync(dataFolder)
    // Another look comes; what would fill the disk is not worth this one.
    if (bavail * bsize < 3 * statSync(join(dataFolder, 'askbox.sqlite')).size) return
    // Cleared away at the next start, should this process end meanwhile.
    const copy = join(dataFolder, 'copy-check.sqlite')
    try {
      rmSync(copy, { force: true })
      await this.copyTo(copy)
    } catch (error) {
      if (!isDamage(error)) complain(error)
    } finally {
      for (const one of [copy, `${copy}-wal`, `${copy}-shm`, `${copy}-journal`]) rmSync(one, { force: true })
    }
  }

  /**
   * Copies the store into a file and reads that through.
   *
   * @throws what kept it from being copied, or read; a store that is damaged is told of before
   */
  async copyTo(file: string): Promise<CheckedCopy> {
    const { ledger, alerts, check } = this.parts
    try {
      await ledger.copyTo(file)
      const checked = await check(file)
      await alerts.clear('store-damaged')
      return checked
    } catch (error) {
      if (isDamage(error)) await this.tellOfDamage(error as Error)
      throw error
    }
  }

  /** Counts people's rows, looks at a tenth of them, the next one each time, and puts right what is not as it was written. */
  async lookAtPeople(): Promise<void> {
    const { memberCheck } = this.parts.ledger
    const { lost, ...counted } = await memberCheck.countMembers(this.counted)
    this.counted = counted
    const tenth = Math.min(MOST_ROWS, Math.ceil(counted.count / 10))
    const { damaged, last } = await memberCheck.checkMembers(this.lookedAt, Math.max(1, tenth))
    this.lookedAt = last ?? ''
    if (damaged.length + lost > 0) {
      this.isRoundWhole = false
      return this.mendPeople(damaged, lost)
    }
    if (last !== null) return
    // A whole round without any: what was told of has passed.
    if (this.isRoundWhole) await this.parts.alerts.clear('store-people')
    this.isRoundWhole = true
  }

  private async mendPeople(damaged: readonly MemberId[], lost: number): Promise<void> {
    const { ledger, alerts, care } = this.parts
    const anew =
      (damaged.length > 0 ? await ledger.memberCheck.mendMembers(damaged) : 0) +
      (lost > 0 ? await ledger.memberCheck.restoreMembers() : 0)
    const found = `Of people on lists, ${damaged.length} were not as they were written, and ${lost} were gone; ${anew} were written anew`
    complain(new Error(`${found}.`))
    await alerts.raise('store-people', {
      subject: 'What is kept of people was damaged',
      text: `${found} from the record of all that happened.\n\nA disk that does this once does it again: have it looked at. ${newestCopyWords(care.read())}`,
    })
  }

  private async tellOfDamage({ message }: Error): Promise<void> {
    complain(new Error(`The store is damaged: ${message}`))
    await this.parts.alerts.raise('store-damaged', {
      subject: 'The store is damaged',
      text: `Reading the store through found that it is not what was written: ${plain(message)}\n\nSign-ups are taken for as long as they can be written. What to do: save your lists as files in the workshop, then put the newest whole copy back. ${newestCopyWords(this.parts.care.read())}\n\nA disk that does this once does it again: have it looked at.`,
    })
  }

  /** Whether the store still has what it had when that was noted last; said where it has not. */
  async lookBehind(): Promise<void> {
    const { ledger, alerts, care } = this.parts
    const noted = this.noted()
    if (noted === null || noted.journal !== (await ledger.journalId())) return
    const latest = await ledger.latest()
    if (latest >= noted.n && (await ledger.entriesAfter(noted.n, noted.mark, 1)) !== null) {
      if (noted.people !== undefined) this.counted = { n: noted.n, count: noted.people }
      await alerts.clear('store-behind')
      return
    }
    const missing =
      latest < noted.n
        ? `It ends at event ${latest}, and had ${noted.n}.`
        : `Event ${noted.n} is another one than it was.`
    complain(new Error(`The store is behind what it was. ${missing}`))
    await alerts.raise('store-behind', {
      subject: 'The store has lost its newest events',
      text: `${missing} Somebody may have put an older file back, or taken events out.\n\nWhat to do: open the workshop on the browser that was used last: what it still knows, it offers to give back. ${newestCopyWords(care.read())}`,
    })
  }

  /** Notes what the journal ends with. */
  async note(): Promise<void> {
    const { ledger, dataFolder } = this.parts
    const latest = await ledger.latest()
    if (latest === 0 || latest === this.noted()?.n) return
    const { n, count } = await ledger.memberCheck.countMembers(null)
    const mark = await ledger.markAt(n)
    if (mark === null) return
    const file = join(dataFolder, NEWEST_FILE)
    const text = newestText({ journal: await ledger.journalId(), n, mark, people: count })
    writeFileSync(`${file}.new`, text, { mode: 0o600, flush: true })
    renameSync(`${file}.new`, file)
  }

  private noted(): z.infer<typeof newestSchema> | null {
    const file = join(this.parts.dataFolder, NEWEST_FILE)
    try {
      return existsSync(file) ? newestSchema.parse(JSON.parse(readFileSync(file, 'utf8'))) : null
    } catch {
      return null
    }
  }
}

/** What a copy's folder, or the store's, says of the newest entry. */
export function newestText(newest: { journal: JournalId; n: number; mark: string; people?: number }): string {
  return JSON.stringify(newest)
}

/** Where the newest whole copy lies, and how it is put back. */
function newestCopyWords({ lastBackup }: CareFacts): string {
  return lastBackup === null
    ? 'No whole copy has been made by itself.'
    : `It lies in ${lastBackup.path} (${new Date(lastBackup.at).toISOString().slice(0, 16).replace('T', ' ')} UTC, ${lastBackup.entries} events). Stop Ask Box and run: npm run restore -- ${lastBackup.path}`
}

/** The same, where the store cannot be opened at all. */
export const newestCopyIn = (dataFolder: string) => newestCopyWords(readKept(join(dataFolder, CARE_FILE)))

const plain = (message: string) => message.replaceAll(/\s+/g, ' ').slice(0, 300)
