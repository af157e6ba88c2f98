import { domainOf } from '#core/mail'
import type { QueuedMail } from './queued'

const HOUR_MS = 60 * 60_000
/** Of more, the oldest are forgotten. */
const MOST = 5_000

type Told = Pick<QueuedMail, 'id' | 'member' | 'compared'>

interface Outcome {
  at: number
  mail: Told
  domain: string
  /** What was said; null where the mail was taken. */
  key: string | null
  isMarked: boolean
}

/** Refusals in the same words within an hour, and how many were taken beside them. */
export interface AlikeOutcomes {
  refused: readonly Told[]
  /** Of people other than those who were refused. */
  taken: number
  /** Since the first of the refusals. */
  takenSince: number
  domains: number
  /** Those of the refused for which somebody was marked. */
  marked: readonly Told[]
}

/** What became of mails of the last hour, the newest of each address: a cause is judged among those who share it. */
export class RecentOutcomes {
  private readonly outcomes = new Map<string, Outcome>()

  /** @param now milliseconds of a clock that does not leap */
  constructor(private readonly now: () => number) {}

  took(mail: Told): void {
    this.keep(mail, null)
  }

  refused(mail: Told, key: string): void {
    this.keep(mail, key)
  }

  /** Notes that somebody was marked for a refusal, or is not any more. */
  mark(mail: Told, isMarked: boolean): void {
    const outcome = this.outcomes.get(mail.compared)
    if (outcome !== undefined) outcome.isMarked = isMarked
  }

  /** @param domain null for all of them */
  alike(key: string, domain: string | null): AlikeOutcomes {
    const since = this.now() - HOUR_MS
    const recent = [...this.outcomes.values()].filter(
      (one) => one.at > since && (domain === null || one.domain === domain),
    )
    const refused = recent.filter((one) => one.key === key)
    const taken = recent.filter((one) => one.key === null)
    const first = Math.min(...refused.map(({ at }) => at))
    return {
      refused: refused.map(({ mail }) => mail),
      taken: taken.length,
      takenSince: taken.filter(({ at }) => at > first).length,
      domains: new Set(refused.map((one) => one.domain)).size,
      marked: refused.flatMap(({ isMarked, mail }) => (isMarked ? [mail] : [])),
    }
  }

  /** Whether somebody of another domain was taken within the hour. */
  tookElsewhere(domain: string): boolean {
    const since = this.now() - HOUR_MS
    return [...this.outcomes.values()].some((one) => one.key === null && one.at > since && one.domain !== domain)
  }

  /** Forgets refusals of a domain: it takes mail again. */
  forget(domain: string): void {
    for (const [compared, one] of this.outcomes)
      if (one.domain === domain && one.key !== null) this.outcomes.delete(compared)
  }

  private keep(mail: Told, key: string | null): void {
    this.outcomes.delete(mail.compared)
    this.outcomes.set(mail.compared, {
      at: this.now(),
      ...{ mail, key, domain: domainOf(mail.compared), isMarked: false },
    })
    for (const [first] of this.outcomes) if (this.outcomes.size > MOST) this.outcomes.delete(first)
  }
}
