import { randomBytes } from 'node:crypto'
import { createChallenge, verifySolution } from 'altcha-lib'
import { deriveKey } from 'altcha-lib/algorithms/pbkdf2'
import type { SpotId } from '#core/ids'
import type { Values } from './values'

export type Puzzle = Awaited<ReturnType<typeof createChallenge>>

/**
 * Rounds of PBKDF2 (RFC 8018) for one guess, of which a browser needs 256 on average (a key that begins with a zero
 * byte): 0.16 s of computing on one desk machine, so about a second on a slow phone, which was not tried; checking
 * one costs the receiver a single guess.
 */
const ROUNDS = 1_000
const LASTS_MS = 10 * 60_000
/** A solution is some 600 letters. */
const MAX_LENGTH = 4_000
const SECRET = 'puzzle secret'

/** Puzzles that a visitor's browser solves before a sign-up is taken. */
export class Puzzles {
  constructor(
    private readonly values: Values,
    private readonly now: () => number,
  ) {}

  private async secret(): Promise<string> {
    const secret = await this.values.value(SECRET)
    if (typeof secret === 'string') return secret
    const made = await this.values.change<string>(SECRET, (before) => before ?? randomBytes(32).toString('hex'))
    return made!
  }

  async make(spot: SpotId): Promise<Puzzle> {
    return createChallenge({
      algorithm: 'PBKDF2/SHA-256',
      cost: ROUNDS,
      deriveKey,
      data: { spot },
      // By the computer's clock, as the package compares it.
      expiresAt: new Date(Date.now() + LASTS_MS),
      hmacSignatureSecret: await this.secret(),
    })
  }

  /**
   * Whether this solves a puzzle made for the spot. It counts for one sign-up: once more only for the same post again.
   *
   * @param solution JSON of the puzzle and what solves it, as a browser sent it
   * @param post names the post that it came with
   */
  async isSolved(solution: string, spot: SpotId, post: string): Promise<boolean> {
    if (solution === '' || solution.length > MAX_LENGTH) return false
    try {
      const told = JSON.parse(solution) as Parameters<typeof verifySolution>[0]
      if (told.challenge.parameters.data?.spot !== spot) return false
      const { verified } = await verifySolution({
        challenge: told.challenge,
        solution: told.solution,
        deriveKey,
        hmacSignatureSecret: await this.secret(),
      })
      if (!verified) return false
      // Remembered until it has ended by itself.
      const until = this.now() + LASTS_MS
      const first = await this.values.change<string>(`puzzle ${told.challenge.signature!}`, (one) => one ?? post, until)
      return first === post
    } catch {
      // Malformed: no solution.
      return false
    }
  }
}
