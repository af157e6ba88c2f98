import type { Subject } from '../subject'
import { answerRoutes } from './answer'
import { mailRoutes } from './mail'
import { pageRoutes } from './page'
import { ruleRoutes } from './rules'

/** What visitors meet beside the sign-up itself: forms and their pages, the answer, and where links in mails lead. */
export const visitors: Subject = {
  name: 'visitors',
  tables: [],
  visitors(routes, parts) {
    const { ledger, settings, mail, rehearsals, counting, files } = parts
    routes.route(
      '/',
      mailRoutes({
        ...parts,
        gifts: mail.gifts,
        followed: (list) => mail.sender.followed(list),
        now: mail.sureNow,
      }),
    )
    routes.route('/', answerRoutes(ledger, settings, rehearsals, mail.now))
    routes.route('/', ruleRoutes(ledger))
    routes.route('/', pageRoutes({ ledger, settings, rehearsals, counting, files }))
  },
}
