import { type Ledger } from '../ledger'
import { BATCHES } from './batches'
import { LEASE_MS, Loop } from '../work'

/** How long one step may take: a sign-up that comes meanwhile waits for it. */
const STEP_MS = 6
const FEWEST = 10
const MOST = 1_000
/** Several times within a lease. */
const HOLD_ON_EVERY_MS = LEASE_MS / 3
/** Within what services are given to stop. */
const STOP_MS = 10_000
/** Pauses after tries of a batch that failed: a full disk may be mended meanwhile. Then the batch is stopped. */
const PAUSES_MS = [2_000, 10_000, 60_000, 300_000]

/** The worker of the queue that applies batches, in steps so small that sign-ups hardly wait. */
export class BatchWorker {
  private readonly loop = new Loop(() => this.round())
  /** People a step, as fast as this machine has been so far. */
  private most = 50
  /** How often in a row a batch failed, since this process began. */
  private readonly failures = new Map<string, number>()
  private stopListening = () => {}

  constructor(private readonly ledger: Ledger) {}

  start(): () => Promise<void> {
    this.stopListening = this.ledger.onNews(() => this.loop.wake(20))
    this.loop.wake()
    return async () => {
      this.stopListening()
      await this.loop.end(STOP_MS)
    }
  }

  private async round(): Promise<number> {
    const { queue } = this.ledger
    const [job] = await queue.due(BATCHES, 1)
    if (job === undefined) return Math.max(0, ((await queue.nextDue(BATCHES)) ?? Infinity) - Date.now())
    if (!(await queue.take(job.id))) return 1_000
    try {
      const isDone = await this.holdingOn(() => this.applyAll(job.id))
      if (isDone) await queue.settle(job.id, { state: 'done', said: '' })
      return isDone ? 0 : 1_000
    } catch (error) {
      return this.failed(job.id, error)
    }
  }

  /** Tries again later, then stops the batch: what was applied of it can be undone, and those behind it have their turn. */
  private async failed(id: string, error: unknown): Promise<number> {
    console.error(error)
    const failures = this.failures.get(id) ?? 0
    const pause = PAUSES_MS[failures]
    const said = error instanceof Error ? error.message : String(error)
    if (pause === undefined) {
      await this.ledger.batches.stop(id)
      await this.ledger.queue.settle(id, { state: 'refused', said, isTarget: false })
      this.failures.delete(id)
    } else {
      this.failures.set(id, failures + 1)
      await this.ledger.queue.settle(id, { state: 'later', said, due: Date.now() + pause })
    }
    return 0
  }

  /** An erasure looks through the whole journal in one step: others must not take the batch over meanwhile. */
  private async holdingOn<T>(work: () => Promise<T>): Promise<T> {
    const timer = setInterval(() => this.ledger.queue.holdOn().catch(console.error), HOLD_ON_EVERY_MS)
    try {
      return await work()
    } finally {
      clearInterval(timer)
    }
  }

  /** False where the receiver stops before it is done: another start goes on. */
  private async applyAll(id: string): Promise<boolean> {
    for (;;) {
      if (this.loop.hasEnded) return false
      const begunAt = performance.now()
      if ((await this.ledger.batches.step(id, this.most)) === null) return true
      this.failures.delete(id)
      const took = performance.now() - begunAt
      this.most = Math.round(Math.min(MOST, Math.max(FEWEST, (this.most * STEP_MS) / Math.max(1, took))))
      // What was asked meanwhile gets a commit of its own, or it would wait for the next step as well.
      await new Promise((resolve) => setTimeout(resolve, 1))
    }
  }
}
