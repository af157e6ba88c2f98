import { parseEmail } from '#core/email'
import type { SignUp } from '#core/signup'
import { hasPassed } from '../clock'
import { calm } from '../limits'
import type { Published } from '../objects'
import { JournalWriter, touch, type People } from '../people'
import { newId } from '../random'
import { Damaged, UnstorableText } from '../store'
import type { Writing } from '../writing'

/** With less room than this, the next sign-ups might find none. */
const LEAST_ROOM_BYTES = 1024 * 1024
const HOLDS_MS = 2_000
/** For so long a sign-up tells whether the next one can be stored. */
const SIGN_UP_TELLS_MS = 60_000

/** Undoes the trial in its transaction. */
class TrialEnded extends Error {}

/** Whether sign-ups can be stored: by the last one, or by one of a made-up person that is undone. */
export class SignUpHealth {
  private last: { at: number; problem: unknown } | null = null
  private known: { at: number; problem: unknown } = { at: 0, problem: null }

  constructor(private readonly writing: Writing) {}

  /** Sign-ups whose outcome is told. */
  watched(signUp: People['signUp']): People['signUp'] {
    return async (...given) => {
      try {
        const result = await signUp(...given)
        this.last = { at: this.writing.now(), problem: null }
        return result
      } catch (error) {
        // Of what somebody sent, or of one row, which is looked for and put right: others are taken.
        if (!(error instanceof UnstorableText || error instanceof Damaged))
          this.last = { at: this.writing.now(), problem: error }
        throw error
      }
    }
  }

  /** @throws what keeps sign-ups from being stored */
  async check(): Promise<void> {
    const { now } = this.writing
    const isToldByLast = this.last !== null && !hasPassed(this.last.at, SIGN_UP_TELLS_MS, now())
    if (isToldByLast && this.last!.problem !== null) throw this.last!.problem
    if (hasPassed(this.known.at, HOLDS_MS, now()))
      this.known = { at: now(), problem: await this.problem(isToldByLast).catch((error: unknown) => error) }
    if (this.known.problem !== null) throw this.known.problem
  }

  private async problem(isToldByLast: boolean): Promise<Error | null> {
    const { engine, now, published } = this.writing
    const room = engine.room()
    if (room !== null && room < LEAST_ROOM_BYTES) return new Error('The disk is full.')
    await engine.run((transaction) => touch(transaction, now()))
    if (isToldByLast) return null
    const signUp = trialOf(published)
    if (signUp === null) return null
    // With memory of its own: what is undone is remembered nowhere.
    const journal = new JournalWriter((list) => published.mail(list))
    await engine
      .run(async (transaction) => {
        await journal.signUp(transaction, signUp, newId(), { now: now(), cause: calm })
        throw new TrialEnded()
      })
      .catch((error: unknown) => {
        if (!(error instanceof TrialEnded)) throw error
      })
    return null
  }
}

/** A made-up person's sign-up at a spot that is live; null where there is none. */
function trialOf(published: Published): SignUp | null {
  const [spot] = published.liveSpots()
  const version = spot === undefined ? undefined : published.latestVersion(spot.form)
  const email = parseEmail(`trial-${newId()}@health.example`)
  if (spot === undefined || version === undefined || !email.ok) return null
  return {
    ...{ spot, version, email: email.email, isBot: false, joins: true, message: null, cameFrom: null, page: '' },
    ...{ values: {}, tags: [], consents: [], passed: {}, whereabouts: { country: '', zone: '' } },
  }
}
