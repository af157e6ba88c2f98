import { join } from 'node:path'
import type { ListId } from '#core/ids'
import { messagesInUse } from '#core/mail'
import type { ClockJob } from '../clock'
import type { Ledger } from '../ledger'
import type { Sender } from '../mail'
import type { Settings } from '../settings'
import { alertIn, Alerts } from './alerts'
import { Backups } from './backups'
import { CareFile } from './kept'
import { MailWatch } from './watch'

export { backupSettingsHereSchema } from './kept'
export type { Alerts } from './alerts'
export { tellOfProof } from './watch'

const MINUTE_MS = 60_000

/** What the receiver does for its owner by itself: copies, and mails when something broke. */
export interface Care {
  file: CareFile
  alerts: Alerts
  backups: Backups
  /** What a mail about something that broke says now. */
  alertWords(mailId: string): { subject: string; text: string } | null
  /** What is looked at now and again: copies and mail. */
  jobs(sender: Sender): ClockJob[]
}

export function openCare({
  ledger,
  settings,
  ownerKey,
  now,
  thread,
}: {
  ledger: Ledger
  settings: Settings
  ownerKey: string
  now(): number
  /** The built program that reads copies through. */
  thread?: string | undefined
}): Care {
  const file = new CareFile(settings.dataFolder === '' ? null : join(settings.dataFolder, 'care.json'))
  const alerts = new Alerts({
    care: file,
    queue: ledger.queue,
    publicUrl: settings.publicUrl,
    sendingList: () => sendingList(ledger),
    now,
  })
  const backups = new Backups({
    care: file,
    alerts,
    dataFolder: settings.dataFolder,
    ownerKey,
    copyTo: (target) => ledger.copyTo(target),
    now,
    thread,
  })
  return {
    file,
    alerts,
    backups,
    alertWords: (id) => alerts.wordsOf(alertIn(id)),
    jobs: (sender) => [
      { name: 'backups', everyMs: 5 * MINUTE_MS, longestMs: 30 * MINUTE_MS, run: () => backups.look() },
      {
        name: 'mail watch',
        everyMs: MINUTE_MS,
        longestMs: MINUTE_MS,
        run: () => new MailWatch({ ledger, sender, alerts, now }).look(),
      },
    ],
  }
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
