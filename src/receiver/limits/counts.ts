import { randomFillSync } from 'node:crypto'

/** 65,536 counters a row: with a million keys in a window, a count is too high by some ten at most. */
const WIDTH_BITS = 16
const ROWS = 4
const MOST = 0xffff

/** Two words of 32 bits that tell keys apart. */
export type CountKey = readonly [number, number]

/**
 * Counts by key over a sliding window, in a fixed amount of memory (1 MB) however many keys come: a count–min sketch
 * (Cormode and Muthukrishnan, “An improved data stream summary”, 2005) with conservative update (Estan and Varghese,
 * 2002). A count is never too low; others' keys may make it too high, and which do cannot be chosen from outside, because
 * the rows are hashed with random numbers. Sliding window: previous bucket times the share still inside.
 */
export class WindowedCounts {
  private current = new Uint16Array(ROWS << WIDTH_BITS)
  private before = new Uint16Array(ROWS << WIDTH_BITS)
  private begunAt: number
  private readonly seeds = randomFillSync(new Uint32Array(ROWS * 3))

  /**
   * @param windowMs how long a count lasts
   * @param now milliseconds of a clock that does not leap
   */
  constructor(
    private readonly windowMs: number,
    private readonly now: () => number,
  ) {
    this.begunAt = now()
  }

  /** How often this came within the window, about. */
  count(key: CountKey): number {
    this.slide()
    return this.least(this.current, key) + this.least(this.before, key) * this.leftOfBefore()
  }

  add(key: CountKey): void {
    this.slide()
    const least = this.least(this.current, key)
    for (let row = 0; row < ROWS; row++) {
      const at = this.place(row, key)
      if (this.current[at] === least && least < MOST) this.current[at]! += 1
    }
  }

  /** Takes one back that was added just now. */
  takeBack(key: CountKey): void {
    const least = this.least(this.current, key)
    if (least === 0) return
    for (let row = 0; row < ROWS; row++) this.current[this.place(row, key)]! -= 1
  }

  /** Milliseconds until one more is within a limit. */
  waitFor(key: CountKey, limit: number): number {
    this.slide()
    const elapsed = this.now() - this.begunAt
    const current = this.least(this.current, key)
    const [older, room, from] =
      current + 1 > limit ? [current, limit - 1, this.windowMs] : [this.least(this.before, key), limit - 1 - current, 0]
    if (older <= room) return Math.max(0, from - elapsed)
    return Math.max(0, from + this.windowMs * (1 - room / older) - elapsed)
  }

  private slide(): void {
    const elapsed = this.now() - this.begunAt
    if (elapsed < this.windowMs) return
    const old = this.before
    this.before = elapsed < 2 * this.windowMs ? this.current : old.fill(0)
    this.current = this.before === old ? this.current.fill(0) : old.fill(0)
    this.begunAt += Math.floor(elapsed / this.windowMs) * this.windowMs
  }

  private leftOfBefore(): number {
    return 1 - (this.now() - this.begunAt) / this.windowMs
  }

  private least(counters: Uint16Array, key: CountKey): number {
    let least = MOST
    for (let row = 0; row < ROWS; row++) {
      const count = counters[this.place(row, key)]!
      if (count < least) least = count
    }
    return least
  }

  /** Multiply and mix (the finalizer of MurmurHash3, in the public domain), with numbers that nobody outside knows. */
  private place(row: number, [high, low]: CountKey): number {
    let hash = Math.imul(high ^ this.seeds[row * 3]!, this.seeds[row * 3 + 1]! | 1)
    hash = Math.imul(hash ^ (hash >>> 16) ^ low ^ this.seeds[row * 3 + 2]!, 0x85ebca6b)
    hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
    hash ^= hash >>> 16
    return (row << WIDTH_BITS) | (hash >>> (32 - WIDTH_BITS))
  }
}
