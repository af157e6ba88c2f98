import type { SpotId } from '#core/ids'
import type { Arrival } from '#core/journal'
import { PeopleCounter } from '#core/results'
import type { Ledger } from '../ledger'

/** Some 10 ms each; sign-ups come in between. */
const AT_ONCE = 2_000

export interface PeopleSums {
  counter: PeopleCounter
  /** Of each spot, the newest sign-up of each verdict: enough to say what is proven. */
  lastArrivals: Map<string, Arrival>
}

/** The journal added up for whoever asks, kept in memory and brought up to date when it is asked for. */
export class JournalSums {
  private kept: (PeopleSums & { cursor: number; clocks: string }) | null = null
  private counting: Promise<PeopleSums> | null = null

  constructor(private readonly ledger: Ledger) {}

  /** Those who ask at once wait for the same. */
  upToNow(): Promise<PeopleSums> {
    this.counting ??= this.catchUp().finally(() => (this.counting = null))
    return this.counting
  }

  private async catchUp(): Promise<PeopleSums> {
    const published = this.ledger.published()
    const zones = new Map<SpotId, string>(
      [...published.liveSpots(), ...published.closedSpots()].map(({ id, site }) => [
        id,
        published.site(site)?.zone ?? 'UTC',
      ]),
    )
    // Days are told by a site's clocks: with other clocks all days are others.
    const clocks = JSON.stringify([...zones])
    if (this.kept?.clocks !== clocks)
      this.kept = {
        ...{ cursor: 0, clocks, lastArrivals: new Map() },
        counter: new PeopleCounter((spot) => zones.get(spot) ?? 'UTC', 'UTC'),
      }
    const kept = this.kept
    for (;;) {
      const page = await this.ledger.entriesAfter(kept.cursor, null, AT_ONCE)
      if (page === null || page.items.length === 0) return kept
      for (const entry of page.items) {
        kept.counter.add(entry)
        if (entry.kind === 'arrival') kept.lastArrivals.set(`${entry.spot} ${entry.verdict}`, entry)
      }
      kept.cursor = page.cursor
      await new Promise((resolve) => setImmediate(resolve))
    }
  }
}
