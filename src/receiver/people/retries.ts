import { hasPassed } from '../clock'
import { type Newest } from '../store'
import { type FirstAnswer, type PeopleStore, RETRY_WINDOW_MS } from './tables'

/** Some 15 MB. Where more than half of them come within the window, 1,600 a second, the oldest are forgotten sooner. */
const MOST = 100_000

/**
 * The first answers within the retry window, by what names who sent exactly what: a copy in memory of what the store has,
 * because keys have no order and an index over them cost every sign-up a page. It knows up to which entry it has them, and
 * reads those of other processes. Two maps that take turns: dropping a whole one costs nothing, while a map that is
 * emptied from its front grows slow.
 */
export class Retries {
  private newer = new Map<string, FirstAnswer>()
  private older = new Map<string, FirstAnswer>()
  private begunAt = 0
  private upTo: Newest = { n: -1, mark: '' }

  /** @param newest what the journal ends with */
  async first(people: PeopleStore, key: string, newest: Newest, now: number): Promise<FirstAnswer | null> {
    if (newest.n !== this.upTo.n || newest.mark !== this.upTo.mark) await this.catchUp(people, newest, now)
    const first = this.newer.get(key) ?? this.older.get(key)
    // The last millisecond counts; also where the clock was set back since.
    return first !== undefined && Math.abs(now - first.at) <= RETRY_WINDOW_MS ? first : null
  }

  /** @param newest what the journal ends with, with the entry that the answer is of */
  async keep(people: PeopleStore, key: string, answer: FirstAnswer, newest: Newest): Promise<void> {
    await people.keepFirstAnswer(key, answer)
    this.add(key, answer)
    this.upTo = newest
  }

  /** The entry of the oldest that is kept. */
  get oldest(): number | null {
    return (this.older.values().next().value ?? this.newer.values().next().value)?.n ?? null
  }

  private async catchUp(people: PeopleStore, newest: Newest, now: number): Promise<void> {
    // Entries that were undone are not in the journal any more, or others have their numbers.
    const isContinued = this.upTo.n >= 0 && this.upTo.n < newest.n && (await this.isStillThere(people))
    if (!isContinued) {
      this.newer = new Map()
      this.older = new Map()
    }
    const after = isContinued ? this.upTo.n : 0
    for (const { key, answer } of await people.firstAnswersAfter(after, now - RETRY_WINDOW_MS)) this.add(key, answer)
    this.upTo = newest
  }

  private async isStillThere(people: PeopleStore): Promise<boolean> {
    return this.upTo.n === 0 || (await people.markAt(this.upTo.n)) === this.upTo.mark
  }

  private add(key: string, answer: FirstAnswer): void {
    if (hasPassed(this.begunAt, RETRY_WINDOW_MS, answer.at) || this.newer.size >= MOST / 2) {
      this.older = this.newer
      this.newer = new Map()
      this.begunAt = answer.at
    }
    this.newer.set(key, answer)
  }
}
