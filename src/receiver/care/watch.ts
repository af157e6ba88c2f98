import type { Proof } from '#core/proof'
import { spotName } from '#core/spot'
import { type Ledger } from '../ledger'
import { mailsInState } from '../mail/queued'
import type { Sender } from '../mail'
import type { Alerts } from './alerts'

/** Refused mails are told of once a day at most. */
const DAY_MS = 86_400_000

/** Looks at what only shows in the store, mail that is refused, and tells its owner. */
export class MailWatch {
  constructor(private readonly parts: { ledger: Ledger; sender: Sender; alerts: Alerts; now(): number }) {}

  async look(): Promise<void> {
    const { ledger, sender, alerts, now } = this.parts
    const { halted } = await sender.settings()
    if (halted === null) await alerts.clear('mail-halted')
    else
      await alerts.raise('mail-halted', {
        subject: 'The mail server takes no mail',
        text: `The mail server refuses mail to everybody, so sending stopped by itself. It said:\n\n${halted.said}\n\nWhat to do: look at the server’s name and password in the Mail room, or ask whoever runs it. What waits goes out as soon as it takes mail again.`,
      })
    const refused = (await mailsInState(ledger.queue, 'refused', 200)).filter(
      ({ kind, due }) => kind !== 'alert' && now() - due < DAY_MS,
    )
    if (refused.length === 0) await alerts.clear('mail-refused')
    else
      await alerts.raise('mail-refused', {
        subject: refused.length === 1 ? 'A mail was refused' : `${refused.length} mails were refused`,
        text: `Refused for good in the last day: ${refused.length}. The last answer was:\n\n${refused[0]!.said}\n\nWhat to do: the Mail room shows each with its reason. A mistyped address needs nothing; where several are refused alike, it is the sender’s address or the server.`,
      })
  }
}

/** Tells of rehearsals that repeat by themselves and fail, spot by spot, until one passes again. */
export async function tellOfProof(proof: Proof, ledger: Ledger, alerts: Alerts): Promise<void> {
  const key = `spot-${proof.spot}`
  const failed = proof.steps.find(({ verdict }) => verdict === 'failed')
  if (failed === undefined) {
    if (proof.verdict === 'passed') await alerts.clear(key)
    return
  }
  const published = ledger.published()
  const spot = published.spot(proof.spot)
  const site = spot === undefined ? undefined : published.site(spot.site)
  const name = spot === undefined ? 'A form' : spotName(spot, site === undefined ? [] : [site])
  await alerts.raise(key, {
    subject: `${name}: the line broke`,
    text: `The rehearsal that repeats by itself went through “${name}” and failed.\n\n${failed.what}: ${failed.seen}\n\nWhat to do: ${failed.failure?.mend ?? 'open the form and look at the station that is marked.'}`,
  })
}
