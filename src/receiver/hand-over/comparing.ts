import type { ComparedPerson, ComparedStanding, Comparison } from '#core/api'
import { comparedAddress, type HandOver, memberIn, spelledValues, standingOf, wantedOf } from '#core/connection'
import type { HandOverId, MemberId } from '#core/ids'
import { complain } from '../log'
import type { Ledger } from '../ledger'
import { type Run, UnderWay } from '../work'
import { pagesOf, type Talk } from './talk'

/** People of each standing who are shown by name. */
const SHOWN = 200
/** People of each standing who can be mended at once. */
const MOST_KEPT = 100_000
/** For a list of a million, a thousand a second. */
const LONGEST_MS = 20 * 60_000
const PAGE = 500

interface Going {
  comparison: Comparison
  /** Whom a mend is about. */
  people: Record<ComparedStanding, ComparedPerson[]>
  run: Run<Comparison>
}

/** In pieces, so that none is a value too large to be written beside sign-ups. */
const PEOPLE_A_PIECE = 1_000
const KEPT_MS = 24 * 3_600_000
const peopleName = (id: HandOverId, standing: ComparedStanding) => `compared ${id} ${standing} `

const standings = ['only-here', 'only-there', 'differs', 'left-there', 'left-here'] as const

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
  private readonly underWay: UnderWay<Comparison>

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
  ) {
    this.underWay = new UnderWay(ledger.values, now, 'comparison')
  }

  async state(id: HandOverId): Promise<Comparison> {
    const found = await this.underWay.state(id)
    if (found === null || found.state === 'stopped') return none()
    // Its receiver ended before it was through.
    if (found.state === 'gone') return { ...found.progress, state: 'failed', said: 'It broke off. Begin again.' }
    return found.progress
  }

  async begin(handOver: HandOver, talk: Talk): Promise<Comparison> {
    const comparison: Comparison = { ...none(), state: 'reading', at: this.now() }
    await this.forget(handOver.id)
    const run = await this.underWay.begin(handOver.id, comparison)
    const people: Going['people'] = {
      ...{ 'only-here': [], 'only-there': [], differs: [], 'left-there': [], 'left-here': [] },
    }
    const going: Going = { comparison, people, run }
    void this.compare(handOver, talk, going)
      .catch((error: unknown) => {
        complain(error)
        going.comparison = { ...going.comparison, state: 'failed', said: 'Something went wrong here.' }
      })
      .then(() => run.end(going.comparison))
      .catch(complain)
    return comparison
  }

  async stop(id: HandOverId): Promise<void> {
    await this.underWay.stop(id)
    await this.underWay.forget(id)
  }

  /** Whom it found with a standing. */
  async found(id: HandOverId, standing: ComparedStanding): Promise<ComparedPerson[]> {
    const pieces = await this.ledger.values.named(peopleName(id, standing))
    return pieces.flatMap(({ value }) => value as ComparedPerson[])
  }

  private async keepPeople(id: HandOverId, people: Going['people']): Promise<void> {
    const until = this.now() + KEPT_MS
    for (const [standing, all] of Object.entries(people) as [ComparedStanding, ComparedPerson[]][])
      for (let at = 0; at < all.length; at += PEOPLE_A_PIECE) {
        const name = `${peopleName(id, standing)}${String(at / PEOPLE_A_PIECE).padStart(4, '0')}`
        await this.ledger.values.keep(name, all.slice(at, at + PEOPLE_A_PIECE), until)
      }
  }

  private async forget(id: HandOverId): Promise<void> {
    for (const standing of standings)
      for (const { name } of await this.ledger.values.named(peopleName(id, standing)))
        await this.ledger.values.drop(name)
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
    for await (const { asked, items } of pagesOf(
      talk,
      'members',
      { list: handOver.target?.id ?? '' },
      // It shows how far it is, and can be stopped.
      LONGEST_MS,
    )) {
      if (going.run.isStopped()) return
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
      if (going.run.isStopped()) return
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
    await this.keepPeople(handOver.id, people)
    comparison.state = 'done'
    comparison.at = this.now()
  }
}

/** Members that a mend hands over once more. */
export function membersOf(people: readonly ComparedPerson[]): MemberId[] {
  return people.flatMap(({ member }) => member ?? [])
}
