import type { SpotId } from '#core/ids'
import { type LookedAt, type ComingsAndGoings, comingsAndGoings, PeopleCounter, type SignUpRow } from '#core/results'
import { entriesFrom, newestEntry } from '../data'

/** Counts what the journal says of people, away from the page; then only what is new. */
interface Clocks {
  /** By spot, the zone whose clocks its days are told by. */
  zones: Record<SpotId, string>
  /** The same for all others, and for lists. */
  zone: string
}
export type ToResults = ({ kind: 'count' } & Clocks) | { kind: 'look'; looked: LookedAt }
export type FromResults = { kind: 'rows'; rows: SignUpRow[] } | { kind: 'comings-and-goings'; those: ComingsAndGoings }

let counter: PeopleCounter | null = null
let cursor = 0
let zonesKnown = ''
let looked: LookedAt | null = null
let working: Promise<void> = Promise.resolve()

async function catchUp({ zones, zone }: Clocks): Promise<void> {
  const end = await newestEntry()
  const named = JSON.stringify([zones, zone])
  // Emptied, or another workspace, or told by other clocks.
  if (counter === null || end < cursor || named !== zonesKnown) {
    counter = new PeopleCounter((spot) => zones[spot] ?? zone, zone)
    cursor = 0
    zonesKnown = named
  }
  for await (const batch of entriesFrom(cursor + 1, end)) for (const entry of batch) counter.add(entry)
  cursor = end
  postMessage({ kind: 'rows', rows: counter.results().rows } satisfies FromResults)
  tellMore()
}

function tellMore(): void {
  if (counter === null || looked === null) return
  postMessage({ kind: 'comings-and-goings', those: comingsAndGoings(counter.results(), looked) } satisfies FromResults)
}

addEventListener('message', ({ data }: MessageEvent<ToResults>) => {
  if (data.kind === 'look') {
    looked = data.looked
    return tellMore()
  }
  working = working.then(() => catchUp(data)).catch((error: unknown) => reportError(error))
})
