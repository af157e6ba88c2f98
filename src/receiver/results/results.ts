import type { Device, SeenHour, SeenRow } from '#core/results'
import type { SpotId } from '#core/ids'
import { hasPassed } from '../clock'
import type { Engine, Transaction } from '../subjects'
import { NOTE_HOURS } from './view-notes'

/** News of one view of a form. */
export interface CountedView {
  /** Each part of a view (seen, begun, signed up) is counted once by it. */
  id: string
  spot: SpotId
  version: number
  day: string
  hour: number
  source: string
  device: Device
  isSeen: boolean
  /** Beginning implies seeing. */
  isStarted: boolean
  /** Of a network that sent far more than people would. */
  isAside: boolean
}

/** How often forms were seen and begun. */
export interface Results {
  /** Counts the news of each view; resolves when it is on disk. */
  count(views: readonly CountedView[], at: number): Promise<void>
  /** Adds sums as they are. */
  add(rows: readonly Required<SeenRow>[], hours: readonly SeenHour[]): Promise<void>
  /** Sums of some days, both included. */
  between(from: string, to: string): Promise<SeenRow[]>
  /** Of each spot, version and source one sum over all of those days, told on the first. */
  over(from: string, to: string): Promise<SeenRow[]>
  /** The same, by kind of device, and by the hour. */
  closely(from: string, to: string): Promise<{ rows: Required<SeenRow>[]; hours: SeenHour[] }>
  /** The first day on which each spot was counted. */
  since(): Promise<{ spot: SpotId; day: string }[]>
  sources(day: string, spot: SpotId, limit: number): Promise<string[]>
}

/** No note is taken for longer, so nothing older needs to be known. */
const KNOWN_MS = (NOTE_HOURS + 2) * 3_600_000
/** Interval of deleting old rows; also done at a start. */
const PRUNED_EVERY_MS = 600_000

/** First days are read from every row there is: several questions of one screen are answered by one reading. */
const FIRST_HOLDS_MS = 2_000

/** News are gathered for so long. */
const TOGETHER_MS = 50

interface Counted {
  at: number
  views: readonly CountedView[]
  resolve(): void
  reject(error: unknown): void
}

/** Gathered sums of one row, before they are written. */
class Sums {
  readonly rows = new Map<string, Required<SeenRow>>()
  readonly hours = new Map<string, SeenHour>()

  /** Adds the news of a view that were not counted before. */
  async add(transaction: Transaction, view: CountedView, at: number): Promise<void> {
    const { id, isSeen, isStarted, isAside, hour, ...key } = view
    const isNew = (part: string) => transaction.takeBeacon(`${id}${part}`, at)
    const isNewView = (isSeen || isStarted) && (await isNew('s'))
    const isNewStart = isStarted && (await isNew('b'))
    if (!isNewView && !isNewStart) return
    const { day, spot, version, source, device } = key
    const name = JSON.stringify([day, spot, version, source, device])
    const row = this.rows.get(name) ?? { ...key, views: 0, starts: 0, setAside: 0 }
    this.rows.set(name, row)
    if (isAside) {
      row.setAside += isNewView ? 1 : 0
      return
    }
    row.views += isNewView ? 1 : 0
    row.starts += isNewStart ? 1 : 0
    if (!isNewView) return
    const known = this.hours.get(`${day} ${hour} ${spot}`) ?? { day, hour, spot, views: 0 }
    known.views += 1
    this.hours.set(`${day} ${hour} ${spot}`, known)
  }

  async write(transaction: Transaction): Promise<void> {
    for (const row of this.rows.values()) await transaction.countSeen(row)
    for (const hour of this.hours.values()) await transaction.countSeenHour(hour)
  }
}

/**
 * Counts the view that a sign-up brings back, in the sign-up's own transaction.
 *
 * @returns whether the sign-up is the first of this view
 */
export async function countSignUp(transaction: Transaction, view: CountedView, at: number): Promise<boolean> {
  if (!(await transaction.takeBeacon(`${view.id}j`, at))) return false
  const sums = new Sums()
  await sums.add(transaction, view, at)
  await sums.write(transaction)
  return !view.isAside
}

export function openResults(engine: Engine): Results {
  let prunedAt = 0
  let waiting: Counted[] = []
  let first: { at: number; rows: Promise<{ spot: SpotId; day: string }[]> } | null = null

  /** Writes gathered news in one transaction: single ones would hold up sign-ups. */
  async function flush(): Promise<void> {
    const messages = waiting
    waiting = []
    const latest = messages.at(-1)!.at
    const isPruned = hasPassed(prunedAt, PRUNED_EVERY_MS, latest)
    try {
      await engine.run(async (transaction) => {
        const sums = new Sums()
        for (const { at, views } of messages) for (const view of views) await sums.add(transaction, view, at)
        await sums.write(transaction)
        if (isPruned) await transaction.forgetBeacons(latest - KNOWN_MS)
      })
      if (isPruned) prunedAt = latest
      for (const { resolve } of messages) resolve()
    } catch (error) {
      for (const { reject } of messages) reject(error)
    }
  }

  return {
    count: (views, at) =>
      new Promise((resolve, reject) => {
        if (views.length === 0) return resolve()
        waiting.push({ at, views, resolve, reject })
        if (waiting.length === 1) setTimeout(() => void flush(), TOGETHER_MS)
      }),
    add: (rows, hours) =>
      engine.run(async (transaction) => {
        for (const row of rows) await transaction.countSeen(row)
        for (const row of hours) await transaction.countSeenHour(row)
      }),
    between: (from, to) => engine.now.seenSums(from, to),
    over: (from, to) => engine.now.seenOver(from, to),
    async closely(from, to) {
      const [rows, hours] = [await engine.now.seenBetween(from, to), await engine.now.seenHoursBetween(from, to)]
      return { rows, hours }
    },
    async since() {
      if (first === null || hasPassed(first.at, FIRST_HOLDS_MS, performance.now()))
        first = { at: performance.now(), rows: engine.now.seenSince() }
      return first.rows
    },
    sources: (day, spot, limit) => engine.now.seenSources(day, spot, limit),
  }
}
