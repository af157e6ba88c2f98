import type { SeenHour, SeenRow } from '#core/results'
import type { SpotId } from '#core/ids'
import type { Engine } from '../store'

/** A view of a form, or what was done with one. */
export interface CountedView {
  spot: SpotId
  version: number
  day: string
  hour: number
  source: string
  device: SeenRow['device']
  isSeen: boolean
  isStarted: boolean
  /** Of a network that sent far more than people would. */
  isAside: boolean
}

/** How often forms were seen and begun. */
export interface Results {
  /** Counts each message once, however often it comes; resolves when that is on disk. */
  count(id: string, at: number, views: readonly CountedView[]): Promise<void>
  /** Adds sums as they are. */
  add(rows: readonly SeenRow[], hours: readonly SeenHour[]): Promise<void>
  /** Sums of some days, both included. */
  between(from: string, to: string): Promise<{ rows: SeenRow[]; hours: SeenHour[] }>
  /** The first day on which each spot was counted. */
  since(): Promise<{ spot: SpotId; day: string }[]>
  sources(day: string, spot: SpotId, limit: number): Promise<string[]>
}

/** So long a message may be on its way twice. */
const KNOWN_MS = 3_600_000

export function openResults(engine: Engine): Results {
  let prunedAt = 0
  return {
    count: (id, at, views) =>
      engine.run(async (transaction) => {
        if (!(await transaction.takeBeacon(id, at))) return
        if (at - prunedAt > KNOWN_MS) {
          prunedAt = at
          await transaction.forgetBeacons(at - KNOWN_MS)
        }
        for (const { isSeen, isStarted, isAside, hour, ...key } of views) {
          await transaction.countSeen({
            ...key,
            views: isSeen && !isAside ? 1 : 0,
            starts: isStarted && !isAside ? 1 : 0,
            setAside: isAside ? 1 : 0,
          })
          if (isSeen && !isAside) await transaction.countSeenHour({ day: key.day, hour, spot: key.spot, views: 1 })
        }
      }),
    add: (rows, hours) =>
      engine.run(async (transaction) => {
        for (const row of rows) await transaction.countSeen(row)
        for (const row of hours) await transaction.countSeenHour(row)
      }),
    async between(from, to) {
      const [rows, hours] = [await engine.now.seenBetween(from, to), await engine.now.seenHoursBetween(from, to)]
      return { rows, hours }
    },
    since: () => engine.now.seenSince(),
    sources: (day, spot, limit) => engine.now.seenSources(day, spot, limit),
  }
}
