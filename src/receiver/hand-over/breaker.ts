/** Pauses while a service fails again and again, in milliseconds. */
const PAUSES_MS = [1_000, 2_000, 5_000, 10_000, 30_000, 60_000, 300_000]
/** Timers are late: by so much the pace is caught up with. */
const CAUGHT_UP_MS = 10
/** Fails of one after the other from which on it is the service, and not the one who is handed over. */
const FAILING_FROM = 3

/** How a service went of late, kept in the store: whichever process goes on knows it. Times in milliseconds since 1970. */
export interface BreakerState {
  /** In a row. */
  failures: number
  /** When it was left alone last, and for how many milliseconds. */
  rest: { at: number; ms: number } | null
  /** When one went last to ask for all. */
  probedAt: number | null
}
export const closedBreaker: BreakerState = { failures: 0, rest: null, probedAt: null }

/** Whether a service failed so often in a row that one asks for all. */
export const isFailing = ({ failures }: Pick<BreakerState, 'failures'>): boolean => failures >= FAILING_FROM

/** Keeps to a service's pace, and leaves it alone while it fails. */
export class Breaker {
  private next = -Infinity

  /**
   * @param clocks `now` of a clock whose leaps are no passing of time, `steady` in milliseconds of one that does not leap
   */
  constructor(
    public pace: { aSecond: number; atOnce: number },
    public state: BreakerState,
    private readonly keep: (state: BreakerState) => void,
    private readonly clocks: { now(): number; steady(): number },
  ) {}

  get isFailing(): boolean {
    return isFailing(this.state)
  }

  /** Milliseconds for which it is left alone. */
  waitMs(): number {
    const { rest } = this.state
    return rest === null ? 0 : this.leftOf(rest.at, rest.ms)
  }

  probeMs(everyMs: number): number {
    const { probedAt } = this.state
    return probedAt === null ? 0 : this.leftOf(probedAt, everyMs)
  }

  probed(): void {
    this.change({ probedAt: this.clocks.now() })
  }

  /** Waits until the pace allows one more: evenly, for who comes all at once holds up whatever else goes on. */
  async turn(): Promise<void> {
    const now = this.clocks.steady()
    this.next = Math.max(this.next, now - CAUGHT_UP_MS) + 1_000 / this.pace.aSecond
    const waitMs = this.next - 1_000 / this.pace.aSecond - now
    if (waitMs > 0) await new Promise((resolve) => setTimeout(resolve, waitMs))
  }

  /** True where it had failed before: what waits can be tried at once. */
  succeeded(): boolean {
    const hadFailed = this.isFailing
    if (this.state.failures > 0 || this.state.rest !== null) this.change({ failures: 0, rest: null })
    return hadFailed
  }

  /** @param retryMs what it asked for itself */
  failed(retryMs: number | null): void {
    const failures = this.state.failures + 1
    const pause = PAUSES_MS[Math.min(failures, PAUSES_MS.length) - 1]!
    // One who is refused for the moment holds nobody else up.
    const rests = isFailing({ failures }) || retryMs !== null
    this.change({ failures, ...(rests && { rest: { at: this.clocks.now(), ms: Math.max(pause, retryMs ?? 0) } }) })
  }

  /** Of a clock that was put back, no more than the whole. */
  private leftOf(at: number, ms: number): number {
    return Math.min(ms, Math.max(0, at + ms - this.clocks.now()))
  }

  private change(changes: Partial<BreakerState>): void {
    this.state = { ...this.state, ...changes }
    this.keep(this.state)
  }
}
