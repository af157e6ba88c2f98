import { batchesRoutes } from './batches'
import { careRoutes } from './care'
import { clientsRoutes } from './clients'
import { filesRoutes } from './files'
import { handOverRoutes } from './hand-over'
import { historyRoutes } from './history'
import { keysRoutes } from './keys'
import { lettersRoutes } from './letters'
import { mailRoutes } from './mail'
import { mailboxRoutes } from './mailbox'
import { messagesRoutes } from './messages'
import { movingRoutes } from './moving'
import { picturesRoutes } from './pictures'
import { presenceRoutes } from './presence'
import { receiverRoutes } from './receiver'
import { pagesRoutes, rehearsalsRoutes } from './rehearsal'
import { resultsRoutes } from './results'
import { sitesRoutes } from './sites'

/** The owner's API: each of its paths, by subject. */
export const api = {
  batches: batchesRoutes,
  care: careRoutes,
  clients: clientsRoutes,
  files: filesRoutes,
  handOver: handOverRoutes,
  history: historyRoutes,
  keys: keysRoutes,
  letters: lettersRoutes,
  mail: mailRoutes,
  mailbox: mailboxRoutes,
  messages: messagesRoutes,
  moving: movingRoutes,
  pages: pagesRoutes,
  pictures: picturesRoutes,
  presence: presenceRoutes,
  receiver: receiverRoutes,
  rehearsals: rehearsalsRoutes,
  results: resultsRoutes,
  sites: sitesRoutes,
}
