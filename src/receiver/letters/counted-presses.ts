import { createHmac, randomBytes } from 'node:crypto'

/** Who presses again within this is the same reader who looks again. */
const WINDOW_MS = 86_400_000
/** Some 10 MB; the oldest are forgotten first. */
const MOST = 100_000

/**
 * Which visitors pressed a counted link lately, so that each counts once a day. Kept in memory alone, by a digest whose key
 * ends with the process: who a visitor was cannot be told from it.
 */
export class CountedPresses {
  private readonly key = randomBytes(32)
  /** When they pressed, oldest first. */
  private readonly pressed = new Map<string, number>()

  /** Whether this is a visitor's first press of a link within a day; the next is not. */
  isFirst(sending: string, link: number, address: string, agent: string): boolean {
    const visitor = createHmac('sha256', this.key)
      .update(JSON.stringify([sending, link, address, agent]))
      .digest('base64')
    const now = performance.now()
    for (const [one, at] of this.pressed) {
      if (now - at < WINDOW_MS && this.pressed.size <= MOST) break
      this.pressed.delete(one)
    }
    if (this.pressed.has(visitor)) return false
    this.pressed.set(visitor, now)
    return true
  }
}
