import { BATCHES, type Ledger } from '../ledger'
import { LEASE_MS, Loop } from '../queue'

/** How long one step may take: a sign-up that comes meanwhile waits for it. */
const STEP_MS = 6
const FEWEST = 10
const MOST = 1_000
/** Several times within a lease. */
const HOLD_ON_EVERY_MS = LEASE_MS / 3
/** Within what services are given to stop. */
const STOP_MS = 10_000

/** The worker of the queue that applies batches, in steps so small that sign-ups hardly wait. */
export class BatchWorker {
  private readonly loop = new Loop(() => this.round())
  /** People a step, as fast as this machine has been so far. */
  private most = 50
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
    const isDone = await this.applyAll(job.id)
    if (isDone) await queue.settle(job.id, { state: 'done', said: '' })
    return isDone ? 0 : 1_000
  }

  /** False where the receiver stops before it is done: another start goes on. */
  private async applyAll(id: string): Promise<boolean> {
    let heldAt = performance.now()
    for (;;) {
      if (this.loop.hasEnded) return false
      const begunAt = performance.now()
      if ((await this.ledger.batches.step(id, this.most)) === null) return true
      const took = performance.now() - begunAt
      this.most = Math.round(Math.min(MOST, Math.max(FEWEST, (this.most * STEP_MS) / Math.max(1, took))))
      if (performance.now() - heldAt > HOLD_ON_EVERY_MS) {
        heldAt = performance.now()
        await this.ledger.queue.holdOn()
      }
      // What was asked meanwhile gets a commit of its own, or it would wait for the next step as well.
      await new Promise((resolve) => setTimeout(resolve, 1))
    }
  }
}
