/** Pauses while a service fails again and again, in milliseconds. */
const PAUSES_MS = [1_000, 2_000, 5_000, 10_000, 30_000, 60_000, 300_000]
/** Timers are late: by so much the pace is caught up with. */
const CAUGHT_UP_MS = 10
/** Fails of one after the other from which on it is the service, and not the one who is handed over. */
const FAILING_FROM = 3

/** Keeps to a service's pace, and leaves it alone while it fails. By a clock that does not leap. */
export class Breaker {
  private failures = 0
  private until = -Infinity
  private probedAt = -Infinity
  private next = -Infinity

  constructor(
    public pace: { aSecond: number; atOnce: number },
    private readonly steady: () => number,
  ) {}

  /** Whether it failed so often in a row that one asks for all. */
  get isFailing(): boolean {
    return this.failures >= FAILING_FROM
  }

  /** Milliseconds for which it is left alone. */
  waitMs(): number {
    return Math.max(0, this.until - this.steady())
  }

  probeMs(everyMs: number): number {
    return Math.max(0, this.probedAt + everyMs - this.steady())
  }

  probed(): void {
    this.probedAt = this.steady()
  }

  /** Waits until the pace allows one more: evenly, for who comes all at once holds up whatever else goes on. */
  async turn(): Promise<void> {
    const now = this.steady()
    this.next = Math.max(this.next, now - CAUGHT_UP_MS) + 1_000 / this.pace.aSecond
    const waitMs = this.next - 1_000 / this.pace.aSecond - now
    if (waitMs > 0) await new Promise((resolve) => setTimeout(resolve, waitMs))
  }

  /** True where it had failed before: what waits can be tried at once. */
  succeeded(): boolean {
    const hadFailed = this.isFailing
    this.failures = 0
    this.until = -Infinity
    return hadFailed
  }

  /** @param retryMs what it asked for itself */
  failed(retryMs: number | null): void {
    const pause = PAUSES_MS[Math.min(this.failures, PAUSES_MS.length - 1)]!
    this.failures += 1
    // One who is refused for the moment holds nobody else up.
    if (this.isFailing || retryMs !== null) this.until = this.steady() + Math.max(pause, retryMs ?? 0)
  }
}
