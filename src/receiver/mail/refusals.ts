import type { QueuedMail } from '../ledger'
import type { Refusal } from './transport'

/** So many people refused in the same words, and nobody taken meanwhile, is no coincidence of addresses. */
const ALIKE = 3
/** How long an accepted mail shows that the server takes mail from us. */
const TAKES_OTHERS_MS = 15 * 60_000

/** What to do with a mail that was refused. */
export type Consequence = 'mark' | 'give-up' | 'later'

/**
 * Tells a refused person from a refused sender by what the same server says to others. In memory: after a start it is
 * learned anew.
 */
export class Refusals {
  private takenAt = -Infinity
  /** Since the last mail that was taken: by what was said, the mails it was said of, one a recipient. */
  private readonly alike = new Map<string, Map<string, QueuedMail['id']>>()
  /** What was said last, where nothing was taken since; null where something was. */
  said: string | null = null

  /** @param now milliseconds of a clock that does not leap */
  constructor(private readonly now: () => number) {}

  taken(): void {
    this.takenAt = this.now()
    this.said = null
    this.alike.clear()
  }

  /** @returns what to do with this mail, and those that were refused alike when they are too many */
  refused(
    mail: QueuedMail,
    { cause, code, key, said }: Refusal,
  ): { consequence: Consequence; alike: QueuedMail['id'][] | null } {
    const isKnownToTake = this.now() - this.takenAt < TAKES_OTHERS_MS
    if (cause === 'person' || (cause === 'unclear' && isKnownToTake)) return { consequence: 'mark', alike: null }
    // An answer of 4xx, or none, is nobody's refusal.
    if (code === null || code < 500) return { consequence: 'later', alike: null }
    this.said = said
    const same = this.alike.get(key) ?? new Map<string, QueuedMail['id']>()
    this.alike.set(key, same.set(mail.compared, mail.id))
    return {
      consequence: cause === 'mail' ? 'give-up' : 'later',
      alike: same.size >= ALIKE ? [...same.values()] : null,
    }
  }
}
