import { complain } from '../log'
import { Loop } from './loop'
import { LEASE_MS, type Queue } from './queue'
import type { Job } from './tables'
import type { Turn } from './turn'

/** Several times within a lease. */
const HOLD_ON_EVERY_MS = LEASE_MS / 3
/** Debounce: a round after every commit would slow sign-ups down. */
const NEWS_PAUSE_MS = 50
/** How long a lane rests where nothing says when there is more to do. */
export const LONGEST_REST_MS = 30_000
const LEAST_REST_MS = 50
/** How often is looked whether another receiver still works off this lane. */
const OTHERS_TURN_MS = 3_000

/** The work of a lane: whose jobs, how many at once, and how. */
export interface LaneWork {
  /** The worker whose jobs these are. */
  worker: string
  /** How many of those that are due may be done now, or for how many milliseconds none. */
  ready(): Promise<{ most: number } | { restMs: number }>
  /**
   * Leases due jobs, does and settles them. Leases are renewed meanwhile.
   *
   * @returns milliseconds until more may be done, 0 for at once
   */
  work(due: readonly Job[]): Promise<number>
  /** Its turn was another receiver's before, or nobody's: what was learned of the target is learned anew. */
  begin?(): Promise<void>
  /** Nothing is due. @param next when something is, in milliseconds since 1970; null for never */
  idle?(next: number | null): void
  /** Grace period for jobs in hand when the receiver stops; shorter than service managers give. */
  stopMs: number
}

/** Works off one lane of the queue: when woken, and when a job becomes due. Of receivers that share a store, one at a time does. */
export class Lane {
  private readonly loop = new Loop(() => this.round())
  private readonly turn: Turn

  constructor(
    private readonly queue: Queue,
    private readonly now: () => number,
    private readonly does: LaneWork,
  ) {
    this.turn = queue.turn(`lane ${does.worker}`)
  }

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

  async end(): Promise<void> {
    await this.loop.end(this.does.stopMs)
    // Another receiver goes on at once.
    await this.turn.letGo().catch(complain)
  }

  private async round(): Promise<number> {
    const { queue, does } = this
    const turn = await this.turn.mine()
    if (turn === false) return OTHERS_TURN_MS
    if (turn === 'taken') await does.begin?.()
    const ready = await does.ready()
    if ('restMs' in ready) return Math.min(ready.restMs, LONGEST_REST_MS)
    const due = await queue.due(does.worker, ready.most)
    if (due.length === 0) {
      const next = await queue.nextDue(does.worker)
      does.idle?.(next)
      return next === null ? LONGEST_REST_MS : Math.max(LEAST_REST_MS, next - this.now())
    }
    const holding = setInterval(
      () => void Promise.all([queue.holdOn(), this.turn.mine()]).catch(complain),
      HOLD_ON_EVERY_MS,
    )
    try {
      return await does.work(due)
    } finally {
      clearInterval(holding)
    }
  }
}
