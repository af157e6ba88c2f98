import type { Verdict } from '#core/journal'
import { RETRY_WINDOW_MS } from './ledger'

/** Some 15 MB. Where more than half of them come within the window, 1,600 a second, the oldest are forgotten sooner. */
const MOST = 100_000

/** The entry that came of it, when (in milliseconds since 1970), and what it was answered. */
interface FirstAnswer {
  n: number
  at: number
  verdict: Verdict
  /** Whether the mail that it would have caused was held back. */
  isMailHeld: boolean
}

/**
 * The first answers within the retry window, by what names who sent exactly what. In memory, because every sign-up asks;
 * the store keeps their keys for the next start. Two maps that take turns: dropping a whole one costs nothing, while a
 * map that is emptied from its front grows slow.
 */
export class Retries {
  private newer = new Map<string, FirstAnswer>()
  private older = new Map<string, FirstAnswer>()
  private begunAt = 0

  first(key: string, now: number): FirstAnswer | null {
    const first = this.newer.get(key) ?? this.older.get(key)
    return first !== undefined && first.at >= now - RETRY_WINDOW_MS ? first : null
  }

  keep(key: string, first: FirstAnswer): void {
    if (first.at - this.begunAt > RETRY_WINDOW_MS || this.newer.size >= MOST / 2) {
      this.older = this.newer
      this.newer = new Map()
      this.begunAt = first.at
    }
    this.newer.set(key, first)
  }

  /** The entry of the oldest that is kept. */
  get oldest(): number | null {
    return (this.older.values().next().value ?? this.newer.values().next().value)?.n ?? null
  }

  /** Forgets those of entry `n` and later, which were undone. */
  forgetFrom(n: number): void {
    for (const kept of [this.newer, this.older]) for (const [key, first] of kept) if (first.n >= n) kept.delete(key)
  }
}
