import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import type { ListId } from '#core/ids'
import { messagesInUse } from '#core/mail'
import { hasPassed } from '../clock'
import type { RecurringJob } from '../work'
import type { Ledger } from '../ledger'
import type { Sender } from '../mail'
import type { Settings } from '../settings'
import { Damaged } from '../store'
import { checkCopy, type CheckedCopy } from './check-copy'
import { alertIn, Alerts } from './alerts'
import { Backups } from './backups'
import { CARE_FILE, CareFile } from './kept'
import { StoreCheck } from './store-check'
import { MailWatch } from './watch'

export { backupSettingsHereSchema } from './kept'
export { CARE_FILE, type CareFile } from './kept'
export { newestCopyIn } from './store-check'
export type { Alerts } from './alerts'
export { tellOfProof } from './watch'

const MINUTE_MS = 60_000
const DAY_MS = 86_400_000

/** What the receiver does for its owner by itself: copies, and mails when something broke. */
export interface Care {
  file: CareFile
  alerts: Alerts
  backups: Backups
  store: StoreCheck
  /** Whether the store is a database server, which its own tools copy and look through. */
  isServer: boolean
  /** What a mail about something that broke says now. */
  alertWords(mailId: string): Promise<{ subject: string; text: string } | null>
  /** What is looked at now and again: copies, the store and mail. */
  jobs(sender: Sender): RecurringJob[]
  /** What a start does: the store is looked at, what an earlier process left is taken away. */
  begin(): Promise<void>
}

export function openCare({
  ledger,
  settings,
  now,
  thread,
}: {
  ledger: Ledger
  settings: Settings
  now(): number
  /** The built program that reads copies through. */
  thread?: string | undefined
}): Care {
  const file = new CareFile(settings.dataFolder === '' ? null : join(settings.dataFolder, CARE_FILE), ledger)
  const alerts = new Alerts({
    care: file,
    queue: ledger.queue,
    publicUrl: settings.publicUrl,
    sendingList: () => sendingList(ledger),
    now,
  })
  const check = (copy: string) => checkedCopy(copy, thread)
  const store = new StoreCheck({ care: file, alerts, ledger, dataFolder: settings.dataFolder, check })
  const backups = new Backups({
    care: file,
    alerts,
    dataFolder: settings.dataFolder,
    journal: () => ledger.journalId(),
    copyTo: (target) => store.copyTo(target),
    now,
  })
  return {
    file,
    alerts,
    backups,
    store,
    get isServer() {
      return ledger.isShared
    },
    alertWords: (id) => alerts.wordsOf(alertIn(id)),
    jobs: (sender) => [
      {
        name: 'store',
        everyMs: DAY_MS,
        longestMs: 60 * MINUTE_MS,
        async run() {
          // A server looks after its own files.
          if (ledger.isShared) return
          const { lastBackup } = file.read()
          // A copy that was made meanwhile was read through.
          if (lastBackup === null || hasPassed(lastBackup.at, DAY_MS, now())) await store.look()
        },
      },
      { name: 'people', everyMs: MINUTE_MS, longestMs: MINUTE_MS, run: () => store.lookAtPeople() },
      { name: 'newest entry', everyMs: MINUTE_MS, longestMs: MINUTE_MS, run: () => store.note() },
      {
        name: 'backups',
        everyMs: 5 * MINUTE_MS,
        longestMs: 30 * MINUTE_MS,
        run: async () => ledger.isShared || backups.look(),
      },
      {
        name: 'mail watch',
        everyMs: MINUTE_MS,
        longestMs: MINUTE_MS,
        run: () => new MailWatch({ ledger, sender, alerts, now }).look(),
      },
    ],
    async begin() {
      backups.clearUnfinished()
      await store.lookBehind()
    },
  }
}

/** Reads a copy through in a thread, where its program is built. */
function checkedCopy(file: string, thread: string | undefined): Promise<CheckedCopy> {
  if (thread === undefined) return Promise.resolve().then(() => checkCopy(file))
  return new Promise((resolve, reject) => {
    const worker = new Worker(thread, { workerData: { file } })
    worker.once('message', (told: CheckedCopy | { damage: string }) =>
      'damage' in told ? reject(new Damaged(told.damage)) : resolve(told),
    )
    worker.once('error', reject)
    worker.once('exit', (code) => code !== 0 && reject(new Error('The copy could not be read through.')))
  })
}

/** A list that sends mail has a sender, and a mail of ours may go in its name. */
function sendingList(ledger: Ledger): ListId | null {
  const published = ledger.published()
  const list = published.mailingLists().find((one): one is ListId => {
    const mail = published.mail(one)
    return mail !== null && mail.senderAddress.trim() !== '' && messagesInUse(mail).length > 0
  })
  return list ?? null
}
