import type { Subject } from '../subject'
import { mailApiRoutes, mailTryRoutes, reportRoutes } from './api'
import { mailboxRoutes } from './api/mailbox'
import { awaitedJob } from './sender-check'
import { MAIL } from './queued'

export const mail: Subject = {
  name: 'mail',
  // Mails wait in the queue, and how they are sent is a value.
  tables: [],
  lanes: () => [MAIL],
  jobs: ({ mail }) => [awaitedJob(mail)],
  workers: ({ mail: { sender } }) => [sender],
  uploads: (routes, { ledger }) => reportRoutes(routes, ledger),
  routes(routes, { ledger, settings, mail }) {
    mailApiRoutes(routes, { ledger, settings, ...mail })
    mailTryRoutes(routes, { ledger, settings, ...mail })
    mailboxRoutes(routes, mail.mailbox)
  },
}
