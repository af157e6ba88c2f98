import { randomBytes } from 'node:crypto'
import { spellId, type SpotId } from '#core/ids'
import { CODE_LENGTH } from '#core/proof'
import { type As, readRehearsalHeader } from '#core/rehearsal'
import type { Ledger } from '../ledger'
import type { Space } from './space'

/** One spot with all its cases takes seconds, against a slow site minutes; by hand, one takes a cup of tea. */
const LONGEST_MS = { byItself: 5 * 60_000, byHand: 30 * 60_000, byLateMail: 65 * 60_000 }
/** Twelve cases, some with several people, on a phone and a desk, with scripts and without. */
const MOST_SIGN_UPS = { byItself: 150, byHand: 20, byLateMail: 20 }
const MOST = 20
const NAMED = 'rehearsal '

/** State of a rehearsal, shared by all processes. */
interface Kept {
  /** Its mark counts at this spot alone; null for one whose people sign up nowhere. */
  spot: SpotId | null
  /** Milliseconds since 1970. */
  endsAt: number
  signUpsLeft: number
  /** Requests that are still to be spared the limits of visitors. */
  asksLeft: number
}

export interface Rehearsal {
  code: string
  space: Space
  spot: SpotId | null
  endsAt: number
}

/** The rehearsals that are going on, each with the one-time code that marks its people. Only their owner starts one. */
export class Rehearsals {
  private readonly ends: ((code: string) => void)[] = []

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number = Date.now,
  ) {}

  /** Null when too many are going on. */
  async start(spot: SpotId | null, how: keyof typeof LONGEST_MS = 'byItself'): Promise<Rehearsal | null> {
    await this.forgetEnded()
    if ((await this.kept()).length >= MOST) return null
    const code = spellId(randomBytes(CODE_LENGTH))
    const endsAt = this.now() + LONGEST_MS[how]
    const signUpsLeft = MOST_SIGN_UPS[how]
    await this.ledger.values.keep(`${NAMED}${code}`, {
      spot,
      endsAt,
      signUpsLeft,
      asksLeft: signUpsLeft * 2,
    } satisfies Kept)
    return this.of(code, { spot, endsAt })
  }

  async get(code: string): Promise<Rehearsal | null> {
    const stored = (await this.ledger.values.value(`${NAMED}${code}`)) as Kept | null
    return stored === null || stored.endsAt < this.now() ? null : this.of(code, stored)
  }

  /** Where the made-up people of all that go on live. */
  async spaces(): Promise<Space[]> {
    return (await this.kept()).map(({ code }) => this.ledger.space(code))
  }

  /** Counts one more of its people; false for another spot, or more than all cases have. */
  mayJoin(code: string, spot: SpotId): Promise<boolean> {
    return this.count(code, spot, 'signUpsLeft')
  }

  /** Counts one more request; false where it is to be limited as a visitor's. */
  mayAsk(code: string, spot: SpotId | undefined): Promise<boolean> {
    return this.count(code, spot, 'asksLeft')
  }

  private async count(code: string, spot: string | undefined, left: 'signUpsLeft' | 'asksLeft'): Promise<boolean> {
    let mayGoOn = false
    await this.ledger.values.change<Kept>(`${NAMED}${code}`, (kept) => {
      mayGoOn = kept !== null && kept.spot === spot && kept[left] > 0
      return kept === null ? undefined : mayGoOn ? { ...kept, [left]: kept[left] - 1 } : kept
    })
    return mayGoOn
  }

  onEnd(tell: (code: string) => void): void {
    this.ends.push(tell)
  }

  async end(code: string): Promise<void> {
    if ((await this.ledger.values.value(`${NAMED}${code}`)) === null) return
    await this.ledger.values.drop(`${NAMED}${code}`)
    await this.ledger.space(code).drop()
    for (const tell of this.ends) tell(code)
  }

  /** Ends rehearsals past their time, whose process may be gone. */
  async forgetEnded(): Promise<void> {
    for (const { code, endsAt } of await this.kept()) if (endsAt < this.now()) await this.end(code)
  }

  private async kept(): Promise<(Kept & { code: string })[]> {
    const named = await this.ledger.values.named(NAMED)
    return named.map(({ name, value }) => ({ code: name.slice(NAMED.length), ...(value as Kept) }))
  }

  private of(code: string, { spot, endsAt }: Pick<Kept, 'spot' | 'endsAt'>): Rehearsal {
    return { code, space: this.ledger.space(code), spot, endsAt }
  }
}

/**
 * Who asks, by that header: nobody's rehearsal, one that goes on, or one with a code that is none.
 */
export async function rehearsalOf(
  header: string | undefined,
  rehearsals: Rehearsals,
): Promise<{ rehearsal: Rehearsal; as: As | null; wording: number | null } | 'refused' | null> {
  if (header === undefined) return null
  const said = readRehearsalHeader(header)
  const rehearsal = said === null ? null : await rehearsals.get(said.code)
  return rehearsal === null ? 'refused' : { rehearsal, as: said!.as, wording: said!.wording }
}
