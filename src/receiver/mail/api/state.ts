import type { MailState } from '#core/api'
import { MAIL } from '../queued'
import { dkimRecord, throughOf } from '..'
import type { MailApiParts } from './parts'

/** How mail is sent, and how much waits. */
export async function mailState({ ledger, settings, sender, mailbox, isStandIn }: MailApiParts): Promise<MailState> {
  const mailSettings = await sender.settings()
  const server = await sender.server()
  const counts = await ledger.queue.counts(MAIL)
  const isFixed = settings.smtpServer !== null
  return {
    server:
      server === null
        ? null
        : {
            host: server.host,
            port: server.port,
            security: server.security,
            user: server.user,
            hasPassword: server.password !== '',
          },
    from: server === null ? null : isFixed ? 'environment' : 'screen',
    isStandIn: server !== null && isStandIn(server),
    hasMailbox: mailbox !== null,
    pace: mailSettings.pace,
    isStopped: mailSettings.isStopped,
    halted: mailSettings.halted,
    refusing: await sender.refusing(),
    awaited: mailSettings.awaited,
    wronglyMarked: await ledger.countWronglyBounced(),
    dkim:
      mailSettings.dkim === null
        ? null
        : { domain: mailSettings.dkim.domain, selector: mailSettings.dkim.selector, ...dkimRecord(mailSettings.dkim) },
    counts: { waiting: counts.open, sent: counts.done, refused: counts.refused, dropped: counts.dropped },
    lastOutAt: await sender.lastOutAt(),
    delivery: await sender.deliveries(),
    ownInboxes: mailSettings.ownInboxes.map(({ list, to, sentAt, arrivedAt, through }) => {
      const mail = ledger.published().mail(list)
      const isAsThen = mail !== null && server !== null && throughOf(mail, server) === through
      return { list, to, sentAt, arrivedAt, isAsThen }
    }),
  }
}
