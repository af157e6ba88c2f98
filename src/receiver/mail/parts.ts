import type { SmtpServer } from '#core/api'
import { join } from 'node:path'
import type { Clock } from '../clock'
import { GiftFiles } from '../gifts'
import type { Ledger } from '../ledger'
import type { ComposeParts } from './compose'
import { StandInMailbox } from './mailbox'
import { nameServers } from './sender-check'
import { Sender } from './sender'
import { openThreadedTransport } from './threaded-transport'
import { bytesOf } from './transport'
import type { MailApiParts } from './api'
import type { Rehearsals } from '../rehearsals'
import type { Settings } from '../settings'

/** The sender and its parts. */
export type MailParts = Omit<MailApiParts, 'ledger' | 'settings'> & Pick<Clock, 'now' | 'sureNow'>

/** Puts together what sends mail. Nothing is sent before `sender.start()`. */
export function mailParts({
  ledger,
  settings,
  rehearsals,
  clock,
  thread,
  alertWords,
  letter,
}: {
  ledger: Ledger
  settings: Settings
  rehearsals: Rehearsals
  /** `steady` where time is made up. */
  clock: Pick<Clock, 'now' | 'sureNow'> & { steady?(): number }
  /** The built thread that sends; without one, mail is sent in this one. */
  thread?: string | undefined
  /** Composes what its owner wrote. */
  letter?: ComposeParts['letter']
  /** Text of an alert mail. */
  alertWords?(mailId: string): Promise<{ subject: string; text: string } | null>
}): MailParts {
  const { now, sureNow, steady } = clock
  const gifts = new GiftFiles(join(settings.dataFolder, 'gifts'), ledger.sharedFiles)
  const isStandIn = ({ host, port }: SmtpServer) =>
    settings.mailbox !== null && host === '127.0.0.1' && port === settings.mailbox.port
  const sender = new Sender({
    ledger,
    fixedServer: settings.smtpServer,
    isStandIn,
    compose: {
      ledger,
      publicUrl: settings.publicUrl,
      giftFile: (id) => gifts.path(id),
      ...(alertWords !== undefined && { alertWords }),
      ...(letter !== undefined && { letter }),
      memberOf: async ({ space, member }) =>
        member === '' ? null : space === '' ? ledger.member(member) : ledger.space(space).member(member),
      messageOf: async ({ space, entry = 0 }) =>
        space === '' ? ledger.messages.at(entry) : ledger.space(space).messageAt(entry),
    },
    keepForRehearsal: async ({ space, recipient }, composed) =>
      ledger
        .space(space)
        .keepMail({ to: recipient.toLowerCase(), at: now(), bytes: (await bytesOf(composed)).toString('base64') }),
    now,
    ...(steady !== undefined && { steady }),
    ...(thread !== undefined && { open: (server, dkim) => openThreadedTransport(thread, server, dkim) }),
  })
  const mailbox = settings.mailbox === null ? null : new StandInMailbox(settings.mailbox.folder)
  rehearsals.onEnd((code) => mailbox?.forgetThose(`-${code}@`))
  return {
    rehearsalMail: {
      queue: ledger.queue,
      mailbox: async () => {
        const server = await sender.server()
        return server !== null && isStandIn(server) ? mailbox : null
      },
    },
    sender,
    gifts,
    isStandIn,
    mailbox,
    nameServers: nameServers(settings.nameServers),
    now,
    sureNow,
  }
}
