const MINUTE_MS = 60_000
const HOUR_MS = 3_600_000
const DAY_MS = 86_400_000

/**
 * How many mails went out in the last minute, hour and day, by a clock that never leaps: a mail server counts by its
 * own clock, whatever ours is set to.
 */
export class SentCounts {
  /** Of the last minute, each by itself; of the day, by minutes. */
  private readonly times: number[] = []
  private readonly minutes = new Map<number, number>()

  /**
   * @param now milliseconds of a clock that does not leap
   * @param before how long ago those went out that an earlier process sent, in milliseconds, and how many
   */
  constructor(
    private readonly now: () => number,
    before: readonly { ageMs: number; count: number }[] = [],
  ) {
    for (const { ageMs, count } of before.toSorted((one, other) => other.ageMs - one.ageMs))
      this.add(Math.max(0, ageMs), count)
  }

  sent(): void {
    this.add(0, 1)
  }

  counts(): { minute: number; hour: number; day: number } {
    const now = this.now()
    while (this.times.length > 0 && this.times[0]! <= now - MINUTE_MS) this.times.shift()
    const counts = { minute: this.times.length, hour: 0, day: 0 }
    for (const [minute, count] of this.minutes) {
      const age = now - minute * MINUTE_MS
      // Minutes count whole, so the oldest of them counts until all of it is over.
      if (age >= DAY_MS + MINUTE_MS) this.minutes.delete(minute)
      else {
        counts.day += count
        if (age < HOUR_MS + MINUTE_MS) counts.hour += count
      }
    }
    return counts
  }

  private add(ageMs: number, count: number): void {
    const at = this.now() - ageMs
    if (ageMs < MINUTE_MS) for (let times = 0; times < count; times++) this.times.push(at)
    const minute = Math.floor(at / MINUTE_MS)
    this.minutes.set(minute, (this.minutes.get(minute) ?? 0) + count)
  }
}
