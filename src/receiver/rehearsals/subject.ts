import { tellOfProof } from '../care'
import { rehearseHandOvers } from '../hand-over'
import type { ReceiverParts, Subject } from '../subject'
import { rehearsalApiRoutes } from './api'
import { rehearsalRoutes } from './public'
import { LateMail } from './late-mail'
import { Repeating } from './repeating'
import { spaceTables } from './tables'

const MINUTE_MS = 60_000

export const rehearsals: Subject = {
  name: 'rehearsals',
  tables: [spaceTables],
  jobs: (parts) => {
    const { repeating, lateMail } = repeated(parts)
    return [
      {
        name: 'ended rehearsals',
        everyMs: MINUTE_MS,
        longestMs: MINUTE_MS,
        run: () => parts.rehearsals.forgetEnded(),
      },
      repeating.job(),
      lateMail.job(),
    ]
  },
  visitors: (routes, { rehearsals, settings, files }) =>
    void routes.route('/', rehearsalRoutes(rehearsals, settings, files)),
  routes: (routes, { ledger, settings, rehearsals, browsers, mail, handOver }) =>
    rehearsalApiRoutes(routes, {
      settings,
      rehearsals,
      browsers,
      rehearsalMail: mail.rehearsalMail,
      handOn: (member) => rehearseHandOvers(member, ledger, handOver, settings.serviceStandIns),
    }),
}

/** What the receiver rehearses by itself. */
function repeated({ ledger, settings, clock, rehearsals, browsers, mail, handOver, care, program }: ReceiverParts) {
  const thread = program('page-thread.js')
  const repeating = new Repeating({
    ledger,
    rehearsals,
    settings,
    mail: mail.rehearsalMail,
    now: clock.now,
    thread,
    browsers,
    tell: (proof) => tellOfProof(proof, ledger, care.alerts),
    handOn: (member) => rehearseHandOvers(member, ledger, handOver, settings.serviceStandIns),
  })
  const lateMail = new LateMail(
    ledger,
    rehearsals,
    {
      subjectOf: (spot) => repeating.subjectOf(spot),
      portsFor: (rehearsal) => repeating.portsFor(rehearsal),
      thread,
      tell: (proof) => tellOfProof(proof, ledger, care.alerts),
    },
    clock.now,
  )
  return { repeating, lateMail }
}
