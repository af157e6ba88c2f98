import { complain } from '../log'

/** Nothing can be looked for more seldom: who waits too long is removed, the clock may have moved. */
const LONGEST_PAUSE_MS = 30_000

/**
 * Works again and again: when it is woken, and when the pause is over that the last round asked for. One round at a time.
 */
export class Loop {
  private timer: ReturnType<typeof setTimeout> | null = null
  private working: Promise<void> | null = null
  private isWoken = false
  private isWaking = false
  private isEnded = false

  /** @param round does what there is to do; milliseconds until there may be more, 0 for at once */
  constructor(private readonly round: () => Promise<number>) {}

  get hasEnded(): boolean {
    return this.isEnded
  }

  /** There may be something to do. Asked again before `pause` milliseconds are over, it stays as it was. */
  wake(pause = 0): void {
    if (this.isEnded) return
    this.isWoken = true
    if (this.working !== null || (this.isWaking && pause > 0)) return
    if (this.timer !== null) clearTimeout(this.timer)
    this.isWaking = true
    // After the requests in progress.
    this.timer = setTimeout(() => this.work(), pause)
  }

  /** No round begins from now on. Resolves when the one that is going on is over, or after so many milliseconds. */
  async end(longestMs: number): Promise<void> {
    this.isEnded = true
    if (this.timer !== null) clearTimeout(this.timer)
    let timer: ReturnType<typeof setTimeout> | undefined
    const longest = new Promise<void>((resolve) => (timer = setTimeout(resolve, longestMs)))
    await Promise.race([this.working, longest])
    clearTimeout(timer)
  }

  private work(): void {
    if (this.working !== null || this.isEnded) return
    this.isWaking = false
    this.working = this.rounds().then((pause) => {
      this.working = null
      // Waiting alone keeps no process alive.
      if (!this.isEnded) this.timer = setTimeout(() => this.work(), Math.min(pause, LONGEST_PAUSE_MS)).unref()
    })
  }

  private async rounds(): Promise<number> {
    let pause = LONGEST_PAUSE_MS
    try {
      do {
        this.isWoken = false
        pause = await this.round()
      } while ((this.isWoken || pause === 0) && !this.isEnded)
    } catch (error) {
      complain(error)
    }
    return pause
  }
}
