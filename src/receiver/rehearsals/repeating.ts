import { randomInt } from 'node:crypto'
import { pagesToRehearse } from '#core/crawl'
import type { ProofId, SpotId } from '#core/ids'
import { caseIds, type HandedOn, type Proof, type RehearsalCase, rehearsalCases } from '#core/proof'
import { makeProof, type Ports, type RehearsalSubject, rehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import type { Member } from '#core/list'
import { keyOf } from '#core/sync'
import { hasPassed } from '../clock'
import type { RecurringJob } from '../work'
import type { BrowserPort } from '../browser'
import { newestCrawl } from '../crawl'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import { newId } from '../random'
import type { Settings } from '../settings'
import type { RehearsalMailParts } from './mails'
import { receiverPorts } from './ports'
import type { Rehearsal, Rehearsals } from './rehearsals'
import { makeProofInThread } from './threaded-proof'

const MINUTE_MS = 60_000
const INTERVALS_MS = { day: 24 * 3_600_000, week: 7 * 24 * 3_600_000 }
const NEED_BROWSER = new Set<RehearsalCase>(rehearsalCases.filter((one) => one.needsBrowser).map(({ id }) => id))

export interface RepeatingParts {
  ledger: Ledger
  rehearsals: Rehearsals
  settings: Settings
  mail: RehearsalMailParts
  now(): number
  /** The built program that reads pages; without one they are read here. */
  thread?: string | undefined
  browsers?: BrowserPort | null
  /** Told how each went. */
  tell?(proof: Proof): Promise<void>
  /** Hands a made-up member on. */
  handOn?(member: Member): Promise<HandedOn[]>
}

/** Rehearsals that repeat by themselves, as often as the owner chose: all that can be done with what is there. */
export class Repeating {
  private isAtWork = false
  /** Those that could not be carried out, which are not begun again at every look. */
  private readonly failedAt = new Map<SpotId, number>()

  constructor(private readonly parts: RepeatingParts) {}

  /** Interval of looking for due rehearsals. Each spot may take minutes against a slow site. */
  job(): RecurringJob {
    return { name: 'rehearsals', everyMs: 10 * MINUTE_MS, longestMs: 60 * MINUTE_MS, run: () => this.look() }
  }

  /** Rehearses due spots one after the other. Resolves with the proofs. */
  async look(): Promise<Proof[]> {
    const every = this.parts.ledger.published().preferences()?.rehearseEvery
    if (every === undefined || this.isAtWork) return []
    this.isAtWork = true
    const made: Proof[] = []
    try {
      for (const spot of this.parts.ledger.published().liveSpots()) {
        // It posts straight to a service, which nobody said yes to.
        if (this.parts.ledger.published().latestVersion(spot.form)?.content.direct !== undefined) continue
        const last = this.parts.ledger.published().rehearsedAt(spot.id)
        const at = Math.max(last === null ? -Infinity : Date.parse(last), this.failedAt.get(spot.id) ?? -Infinity)
        if (!hasPassed(at, INTERVALS_MS[every], this.parts.now())) continue
        try {
          const proof = await this.rehearse(spot)
          if (proof === null) continue
          made.push(proof)
          await this.parts.tell?.(proof)
        } catch (error) {
          // The others have their turn all the same.
          complain(error)
          this.failedAt.set(spot.id, this.parts.now())
        }
      }
    } finally {
      this.isAtWork = false
    }
    return made
  }

  private async rehearse(spot: Spot): Promise<Proof | null> {
    const rehearsal = await this.parts.rehearsals.start(spot.id)
    if (rehearsal === null) return null
    try {
      const subject = this.subjectOf(spot)
      subject.morePages = await this.morePagesOf(spot)
      const ports = this.portsFor(rehearsal)
      const cases = caseIds.filter((one) => ports.browser !== null || !NEED_BROWSER.has(one))
      const facts = { id: newId<ProofId>(), at: new Date(this.parts.now()).toISOString(), by: 'receiver' as const }
      const proof =
        this.parts.thread === undefined
          ? await makeProof(subject, cases, ports, facts)
          : await makeProofInThread(this.parts.thread, { subject, cases, code: rehearsal.code, facts }, ports)
      await this.parts.ledger.takeChanges([{ kind: 'proof', key: keyOf('proof', proof), base: 0, body: proof }])
      return proof
    } finally {
      await this.parts.rehearsals.end(rehearsal.code)
    }
  }

  /** Further pages on which a rule should have put the form. */
  private async morePagesOf(spot: Spot): Promise<string[]> {
    const { ledger } = this.parts
    const site = ledger.published().site(spot.site)?.address ?? ''
    const random = () => randomInt(2 ** 32) / 2 ** 32
    return pagesToRehearse(await newestCrawl(ledger.values, spot.site), spot, { site, random })
  }

  portsFor(rehearsal: Rehearsal): Ports {
    return receiverPorts(rehearsal, this.parts)
  }

  subjectOf(spot: Spot): RehearsalSubject {
    const published = this.parts.ledger.published()
    const spots = [...published.liveSpots(), ...published.closedSpots()]
    const sites = [...new Set(spots.map(({ site }) => site))].flatMap((id) => published.site(id) ?? [])
    return rehearsalSubject(spot, { ...published, spots, sites, receiver: this.parts.settings.publicUrl })
  }
}
