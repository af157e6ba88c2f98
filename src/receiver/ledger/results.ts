import type { Device, SeenHour, SeenRow } from '#core/results'
import type { SpotId } from '#core/ids'
import type { Engine } from '../store'

/** A view of a form, or what was done with one. */
export interface CountedView {
  spot: SpotId
  version: number
  day: string
  hour: number
  source: string
  device: Device
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
  add(rows: readonly Required<SeenRow>[], hours: readonly SeenHour[]): Promise<void>
  /** Sums of some days, both included. */
  between(from: string, to: string): Promise<SeenRow[]>
  /** The same, by kind of device, and by the hour. */
  closely(from: string, to: string): Promise<{ rows: Required<SeenRow>[]; hours: SeenHour[] }>
  /** The first day on which each spot was counted. */
  since(): Promise<{ spot: SpotId; day: string }[]>
  sources(day: string, spot: SpotId, limit: number): Promise<string[]>
}

/** So long a message may be on its way twice. */
const KNOWN_MS = 3_600_000

/** So long what comes is gathered. */
const TOGETHER_MS = 50

interface Counted {
  id: string
  at: number
  views: readonly CountedView[]
  resolve(): void
  reject(error: unknown): void
}

function addView(
  { isSeen, isStarted, isAside, hour, ...key }: CountedView,
  rows: Map<string, Required<SeenRow>>,
  hours: Map<string, SeenHour>,
): void {
  const { day, spot, version, source, device } = key
  const name = JSON.stringify([day, spot, version, source, device])
  const row = rows.get(name) ?? { ...key, views: 0, starts: 0, setAside: 0 }
  rows.set(name, row)
  if (isAside) row.setAside += 1
  else {
    row.views += isSeen ? 1 : 0
    row.starts += isStarted ? 1 : 0
  }
  if (isAside || !isSeen) return
  const known = hours.get(`${day} ${hour} ${spot}`) ?? { day, hour, spot, views: 0 }
  known.views += 1
  hours.set(`${day} ${hour} ${spot}`, known)
}

export function openResults(engine: Engine): Results {
  let prunedAt = 0
  let waiting: Counted[] = []

  /** Writes down as one what came within a moment: each by itself would hold up sign-ups. */
  async function flush(): Promise<void> {
    const messages = waiting
    waiting = []
    try {
      await engine.run(async (transaction) => {
        const rows = new Map<string, Required<SeenRow>>()
        const hours = new Map<string, SeenHour>()
        for (const { id, at, views } of messages)
          if (await transaction.takeBeacon(id, at)) for (const view of views) addView(view, rows, hours)
        for (const row of rows.values()) await transaction.countSeen(row)
        for (const hour of hours.values()) await transaction.countSeenHour(hour)
        const latest = messages.at(-1)!.at
        if (latest - prunedAt > KNOWN_MS) await transaction.forgetBeacons(latest - KNOWN_MS)
      })
      prunedAt = Math.max(prunedAt, messages.at(-1)!.at)
      for (const { resolve } of messages) resolve()
    } catch (error) {
      for (const { reject } of messages) reject(error)
    }
  }

  return {
    count: (id, at, views) =>
      new Promise((resolve, reject) => {
        waiting.push({ id, at, views, resolve, reject })
        if (waiting.length === 1) setTimeout(() => void flush(), TOGETHER_MS)
      }),
    add: (rows, hours) =>
      engine.run(async (transaction) => {
        for (const row of rows) await transaction.countSeen(row)
        for (const row of hours) await transaction.countSeenHour(row)
      }),
    between: (from, to) => engine.now.seenSums(from, to),
    async closely(from, to) {
      const [rows, hours] = [await engine.now.seenBetween(from, to), await engine.now.seenHoursBetween(from, to)]
      return { rows, hours }
    },
    since: () => engine.now.seenSince(),
    sources: (day, spot, limit) => engine.now.seenSources(day, spot, limit),
  }
}
