import Dexie, { type ObservabilitySet } from 'dexie'
import { defineStore } from 'pinia'
import { computed, onScopeDispose, shallowRef } from 'vue'
import type { FormId, SpotId } from '#core/ids'
import type { Arrival, Entry, Verdict } from '#core/journal'
import { database } from './database'
import { entriesFrom, entryAt, newestEntries, newestEntry } from './journal'
import { touches } from './live'

const DAY_MS = 86_400_000
const RECENT_DAYS = 7
/** What a form's own rhythm is seen from: eight weeks, and the one that is held against them. */
const KEPT_DAYS = 64
/** More than any place shows. */
const NEWEST = 20

/** What the Desk counts of a sign-up. */
export interface RecentArrival {
  n: number
  at: string
  form: FormId
  spot: SpotId
  version: number
  verdict: Verdict
}

/** The sign-ups of the last weeks, in memory: read once, then only what is new. */
export const useArrivals = defineStore('arrivals', () => {
  /** Of the last weeks, oldest first. Taken anew at each change, so that what reads it follows. */
  const kept = shallowRef<readonly RecentArrival[]>([])
  const recent = computed(() => {
    const since = new Date(Date.now() - RECENT_DAYS * DAY_MS).toISOString()
    return kept.value.filter(({ at }) => at >= since)
  })
  /** The newest of all, by people and bots alike, newest first; null until they are known. */
  const newest = shallowRef<Arrival[] | null>(null)
  let last = 0
  let isWaiting = false
  let working = catchUp()

  const onChange = (parts: ObservabilitySet) => {
    // Whatever comes before the next reading begins is read by it.
    if (isWaiting || !touches(parts, ['journal'])) return
    isWaiting = true
    working = working.then(catchUp)
  }
  Dexie.on('storagemutated', onChange)
  onScopeDispose(() => Dexie.on.storagemutated.unsubscribe(onChange))

  async function catchUp(): Promise<void> {
    isWaiting = false
    const end = await newestEntry()
    if (end < last) {
      // Emptied, or another workspace.
      last = 0
      kept.value = []
      newest.value = null
    }
    const since = new Date(Date.now() - KEPT_DAYS * DAY_MS).toISOString()
    // While years are pulled, what is long over is not read once more.
    const isLongOver = end > last + NEWEST && ((await entryAt(end))?.at ?? '') < since
    const from = isLongOver ? end + 1 : last === 0 ? await firstSince(since, end) : last + 1
    const fresh: Arrival[] = []
    for await (const batch of entriesFrom(from, end)) fresh.push(...batch.filter(isArrival))
    const before = newest.value ?? []
    // What comes meanwhile is read next time.
    const isArrivalUntilThen = (entry: Entry) => isArrival(entry) && entry.n <= end
    const latest =
      newest.value === null || isLongOver
        ? ((await newestEntries(NEWEST, isArrivalUntilThen, newest.value === null ? 0 : last)) as Arrival[])
        : fresh.slice(-NEWEST).reverse()
    last = end
    const recent = fresh.filter(({ at }) => at >= since)
    if (recent.length > 0)
      kept.value = [
        ...kept.value.filter(({ at }) => at >= since),
        ...recent.map(({ n, at, form, spot, version, verdict }) => ({ n, at, form, spot, version, verdict })),
      ]
    if (newest.value === null || latest.length > 0) newest.value = [...latest, ...before].slice(0, NEWEST)
  }

  return {
    kept,
    recent,
    newest,
    of: (form: FormId) => recent.value.filter((arrival) => arrival.form === form && arrival.verdict !== 'bot'),
  }
})

/** Number of the first entry at or after a moment. Entries come nearly in the order of time, so halving finds it. */
async function firstSince(since: string, end: number): Promise<number> {
  let [before, after] = [0, end + 1]
  while (after - before > 1) {
    const middle = Math.floor((before + after) / 2)
    const entry = await entryAt(middle)
    if (entry !== null && entry.at >= since) after = middle
    else before = middle
  }
  return after
}

const isArrival = (entry: Entry) => entry.kind === 'arrival'

/** Of each spot: the newest sign-up by a person who joined, and by one who was on the list. Enough to say what is proven. */
export async function lastArrivalsOf(spots: readonly SpotId[]): Promise<Arrival[]> {
  const rows = await database.lastArrivals.bulkGet(
    spots.flatMap((spot): [SpotId, Verdict][] => [
      [spot, 'joined'],
      [spot, 'confirm-first'],
      [spot, 'already-on-list'],
    ]),
  )
  return rows.flatMap((one) => one?.arrival ?? [])
}
