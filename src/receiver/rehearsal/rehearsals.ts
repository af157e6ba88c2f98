import { randomBytes } from 'node:crypto'
import { spellId, type SpotId } from '#core/ids'
import { CODE_LENGTH } from '#core/proof'
import type { As } from '#core/rehearsal'
import type { Ledger, Space } from '../ledger'

/** One spot with all its cases takes seconds, against a slow site minutes; by hand, one takes a cup of tea. */
const LONGEST_MS = { byItself: 5 * 60_000, byHand: 30 * 60_000 }
/** Twelve cases, some with several people, on a phone and a desk, with scripts and without. */
const MOST_SIGN_UPS = { byItself: 150, byHand: 20 }
const MOST = 20

export interface Rehearsal {
  code: string
  space: Space
  /** Its mark counts at this spot alone. */
  spot: SpotId
  /** Counts one more of its people; false for another spot, or more than all cases have. */
  mayJoin(spot: SpotId): boolean
  /** Whether it is still to be spared the limits of visitors. */
  mayAsk(spot: SpotId | undefined): boolean
  /** Milliseconds since 1970. */
  endsAt: number
  /** Mail to its people, as bytes, where no mailbox took it. */
  mails: { to: string; at: number; bytes: Buffer }[]
}

/** The rehearsals that are going on, each with the one-time code that marks its people. Only their owner starts one. */
export class Rehearsals {
  private readonly going = new Map<string, Rehearsal>()
  private readonly ends: ((code: string) => void)[] = []

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number = Date.now,
  ) {}

  /** Null when too many are going on. */
  start(spot: SpotId, how: keyof typeof LONGEST_MS = 'byItself'): Rehearsal | null {
    for (const one of this.going.values()) if (one.endsAt < this.now()) void this.end(one.code)
    if (this.going.size >= MOST) return null
    const code = spellId(randomBytes(CODE_LENGTH))
    let left = MOST_SIGN_UPS[how]
    let asks = MOST_SIGN_UPS[how] * 2
    const made: Rehearsal = {
      code,
      space: this.ledger.space(code),
      spot,
      mayJoin: (at) => at === spot && left-- > 0,
      mayAsk: (at) => at === spot && asks-- > 0,
      endsAt: this.now() + LONGEST_MS[how],
      mails: [],
    }
    this.going.set(code, made)
    return made
  }

  get(code: string): Rehearsal | null {
    const found = this.going.get(code)
    return found === undefined || found.endsAt < this.now() ? null : found
  }

  /** Where the made-up people of all that go on live. */
  spaces(): Space[] {
    return [...this.going.values()].map(({ space }) => space)
  }

  onEnd(tell: (code: string) => void): void {
    this.ends.push(tell)
  }

  keepMail(code: string, to: string, bytes: Buffer): void {
    this.going.get(code)?.mails.push({ to: to.toLowerCase(), at: this.now(), bytes })
  }

  async end(code: string): Promise<void> {
    const found = this.going.get(code)
    this.going.delete(code)
    await found?.space.drop()
    if (found !== undefined) for (const tell of this.ends) tell(code)
  }
}

/** The header by which the receiver's own requests of a rehearsal are known: its code, and how the spot is to be held. */
export const REHEARSAL_HEADER = 'Askbox-Rehearsal'

export function rehearsalHeader(code: string, as?: As): string {
  return as === undefined ? code : `${code}; as=${as}`
}

/**
 * Who asks, by that header: nobody's rehearsal, one that goes on, or one with a code that is none.
 */
export function rehearsalOf(
  header: string | undefined,
  rehearsals: Rehearsals,
): { rehearsal: Rehearsal; as: As | null } | 'refused' | null {
  if (header === undefined) return null
  const found = /^([a-z0-9]{1,40})(?:; as=(paused|retired))?$/.exec(header)
  const rehearsal = found === null ? null : rehearsals.get(found[1]!)
  return rehearsal === null ? 'refused' : { rehearsal, as: (found![2] as As | undefined) ?? null }
}
