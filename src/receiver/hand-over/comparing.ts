import type { ComparedPerson, ComparedStanding, Comparison } from '#core/api'
import { comparedAddress, type HandOver, memberIn, spelledValues, standingOf, wantedOf } from '#core/connection'
import type { HandOverId, MemberId } from '#core/ids'
import { complain } from '../complaints'
import type { Ledger } from '../ledger'
import { pagesOf, type Talk } from './talk'

/** People of each standing who are shown by name. */
const SHOWN = 200
/** People of each standing who can be mended at once. */
const MOST_KEPT = 100_000
const PAGE = 500

interface Going {
  comparison: Comparison
  /** Whom a mend is about. */
  people: Record<ComparedStanding, ComparedPerson[]>
  stop: AbortController
}

const none = (): Comparison => ({
  state: 'none',
  at: 0,
  read: 0,
  same: 0,
  counts: { 'only-here': 0, 'only-there': 0, differs: 0, 'left-there': 0, 'left-here': 0 },
  people: [],
  said: '',
})

/** Compares our list and theirs, person by person, in the background. One at a time of each hand-over. */
export class Comparisons {
  private readonly going = new Map<HandOverId, Going>()

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
  ) {}

  state(id: HandOverId): Comparison {
    return this.going.get(id)?.comparison ?? none()
  }

  begin(handOver: HandOver, talk: Talk): Comparison {
    this.going.get(handOver.id)?.stop.abort()
    const going: Going = {
      comparison: { ...none(), state: 'reading', at: this.now() },
      people: { 'only-here': [], 'only-there': [], differs: [], 'left-there': [], 'left-here': [] },
      stop: new AbortController(),
    }
    this.going.set(handOver.id, going)
    void this.compare(handOver, talk, going).catch((error: unknown) => {
      complain(error)
      going.comparison = { ...going.comparison, state: 'failed', said: 'Something went wrong here.' }
    })
    return going.comparison
  }

  stop(id: HandOverId): void {
    this.going.get(id)?.stop.abort()
    this.going.delete(id)
  }

  /** Whom it found with a standing. */
  found(id: HandOverId, standing: ComparedStanding): ComparedPerson[] {
    return this.going.get(id)?.people[standing] ?? []
  }

  private async compare(handOver: HandOver, talk: Talk, going: Going): Promise<void> {
    const { service } = talk.way
    const { comparison, people } = going
    const found = (person: ComparedPerson) => {
      comparison.counts[person.standing] += 1
      if (people[person.standing].length < MOST_KEPT) people[person.standing].push(person)
      if (people[person.standing].length <= SHOWN) comparison.people.push(person)
    }
    const seen = new Set<string>()
    for await (const { asked, items } of pagesOf(talk, 'members', { list: handOver.target?.id ?? '' })) {
      if (going.stop.signal.aborted) return
      if (asked.means !== 'done') {
        going.comparison = { ...comparison, state: 'failed', said: asked.said }
        return
      }
      for (const item of items) {
        const theirs = memberIn(service, 'members', item)
        if (theirs === null) continue
        const compared = comparedAddress(theirs.email)
        seen.add(compared)
        comparison.read += 1
        const member = await this.ledger.handOvers.withAddress(handOver.list, compared)
        const standing = standingOf(
          member === null ? null : wantedOf(member, handOver),
          theirs,
          handOver.fields.map(({ key }) => key),
          (values) => spelledValues(service, values),
        )
        if (standing.standing === 'same') comparison.same += 1
        else
          found({
            standing: standing.standing,
            member: member?.id ?? null,
            email: theirs.email,
            differences: 'differences' in standing ? standing.differences : [],
            theirs,
          })
      }
    }
    for (let rank = 0; ;) {
      if (going.stop.signal.aborted) return
      const page = await this.ledger.handOvers.membersAfter(handOver.list, rank, PAGE)
      for (const { member } of page) {
        if (seen.has(member.email.compared)) continue
        comparison.read += 1
        const { standing } = standingOf(wantedOf(member, handOver), null)
        if (standing === 'only-here')
          found({ standing, member: member.id, email: member.email.typed, differences: [], theirs: null })
        else comparison.same += 1
      }
      const last = page.at(-1)
      if (last === undefined) break
      rank = last.rank
      await new Promise((resolve) => setImmediate(resolve))
    }
    comparison.state = 'done'
    comparison.at = this.now()
  }
}

/** Members that a mend hands over once more. */
export function membersOf(people: readonly ComparedPerson[]): MemberId[] {
  return people.flatMap(({ member }) => member ?? [])
}
