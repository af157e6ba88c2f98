import type { ProofId, SpotId } from '#core/ids'
import { isAwaiting, type Proof } from '#core/proof'
import { completed, makeProof, type Ports, PUT_OFF_MS, type RehearsalSubject } from '#core/rehearsal'
import type { Spot } from '#core/spot'
import { keyOf } from '#core/sync'
import type { RecurringJob } from '../work'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import { newId } from '../random'
import type { Rehearsal, Rehearsals } from './rehearsals'
import { makeProofInThread } from './threaded-proof'

const MINUTE_MS = 60_000

export interface LateMailParts {
  subjectOf(spot: Spot): RehearsalSubject
  portsFor(rehearsal: Rehearsal): Ports
  /** The built program that reads pages; without one they are read here. */
  thread?: string | undefined
  tell(proof: Proof): Promise<void>
}

/**
 * Completes rehearsals, whoever began them, whose mail was put off: somebody new signs up, and their mail is waited for as
 * long as such servers let one wait. What comes of it is a proof of its own, which has all that was seen before.
 */
export class LateMail {
  private readonly going = new Set<SpotId>()

  constructor(
    private readonly ledger: Ledger,
    private readonly rehearsals: Rehearsals,
    private readonly parts: LateMailParts,
    private readonly now: () => number,
  ) {}

  /** Finds rehearsals to complete; those begun go on meanwhile. */
  job(): RecurringJob {
    return {
      name: 'mail that was put off',
      everyMs: MINUTE_MS,
      longestMs: MINUTE_MS,
      run: async () => void this.look(),
    }
  }

  /** Resolves with the completed proofs. */
  async look(): Promise<Proof[]> {
    const published = this.ledger.published()
    const due = published.liveSpots().flatMap((spot) => {
      const proof = published.awaitingProof(spot.id)
      const isFresh = proof !== null && this.now() - Date.parse(proof.at) < PUT_OFF_MS
      return isFresh && !this.going.has(spot.id) ? [{ spot, proof }] : []
    })
    const done = await Promise.all(
      due.map(async ({ spot, proof }) => {
        this.going.add(spot.id)
        try {
          return await this.complete(proof, this.parts.subjectOf(spot))
        } catch (error) {
          complain(error)
          return null
        } finally {
          this.going.delete(spot.id)
        }
      }),
    )
    return done.filter((proof) => proof !== null)
  }

  private async complete(before: Proof, subject: RehearsalSubject): Promise<Proof | null> {
    const rehearsal = await this.rehearsals.start(before.spot, 'byLateMail')
    if (rehearsal === null) return null
    try {
      const ports = { ...this.parts.portsFor(rehearsal), mailPatienceMs: PUT_OFF_MS }
      const facts = { id: newId<ProofId>(), at: new Date(this.now()).toISOString(), by: 'receiver' as const }
      const { thread } = this.parts
      const later =
        thread === undefined
          ? await makeProof(subject, ['mail'], ports, facts)
          : await makeProofInThread(thread, { subject, cases: ['mail'], code: rehearsal.code, facts }, ports)
      const newest = this.ledger.published().rehearsedAt(before.spot)
      // Rehearsed anew meanwhile: that counts.
      if (newest !== null && newest > before.at) return null
      const proof = { ...completed(before, later), at: new Date(this.now()).toISOString() }
      if (isAwaiting(proof)) return null
      await this.ledger.takeChanges([{ kind: 'proof', key: keyOf('proof', proof), base: 0, body: proof }])
      await this.parts.tell(proof)
      return proof
    } finally {
      await this.rehearsals.end(rehearsal.code)
    }
  }
}
