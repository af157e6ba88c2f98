import { complain } from '../complaints'
import { Loop } from './loop'
import { LEASE_MS, type Queue } from './queue'
import type { Job } from './tables'

/** Several times within a lease. */
const HOLD_ON_EVERY_MS = LEASE_MS / 3
/** Looking after every commit would slow down whoever signs up. */
const NEWS_PAUSE_MS = 50
/** How long a lane rests where nothing says when there is more to do. */
export const LONGEST_REST_MS = 30_000
const LEAST_REST_MS = 50

/** What is done in a lane: of which jobs, how many at once, and how. */
export interface LaneWork {
  /** The worker whose jobs these are. */
  worker: string
  /** How many of those that are due may be done now, or for how many milliseconds none. */
  ready(): Promise<{ most: number } | { restMs: number }>
  /**
   * Does some of what is due, takes it in hand and settles it. Whatever is in hand is held on to meanwhile.
   *
   * @returns milliseconds until more may be done, 0 for at once
   */
  work(due: readonly Job[]): Promise<number>
  /** Nothing is due. @param next when something is, in milliseconds since 1970; null for never */
  idle?(next: number | null): void
  /** What is being done when the receiver stops is waited for so long; within what services are given to stop. */
  stopMs: number
}

/** Works a lane of the queue off: when it is woken, and when what waits is due. */
export class Lane {
  private readonly loop = new Loop(() => this.round())

  constructor(
    private readonly queue: Queue,
    private readonly now: () => number,
    private readonly does: LaneWork,
  ) {}

  get hasEnded(): boolean {
    return this.loop.hasEnded
  }

  /** @param listen calls what it is given after commits that may have queued something, until what it returns is called */
  start(listen: (heard: () => void) => () => void): () => Promise<void> {
    const stopListening = listen(() => this.wake(NEWS_PAUSE_MS))
    this.wake()
    return async () => {
      stopListening()
      await this.end()
    }
  }

  wake(pauseMs = 0): void {
    this.loop.wake(pauseMs)
  }

  end(): Promise<void> {
    return this.loop.end(this.does.stopMs)
  }

  private async round(): Promise<number> {
    const { queue, does } = this
    const ready = await does.ready()
    if ('restMs' in ready) return Math.min(ready.restMs, LONGEST_REST_MS)
    const due = await queue.due(does.worker, ready.most)
    if (due.length === 0) {
      const next = await queue.nextDue(does.worker)
      does.idle?.(next)
      return next === null ? LONGEST_REST_MS : Math.max(LEAST_REST_MS, next - this.now())
    }
    const holding = setInterval(() => void queue.holdOn().catch(complain), HOLD_ON_EVERY_MS)
    try {
      return await does.work(due)
    } finally {
      clearInterval(holding)
    }
  }
}
