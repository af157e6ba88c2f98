import { complain } from '../log'
import type { Ledger } from '../ledger'
import { type Job, Lane } from '../work'
import { BATCHES } from './batches'

/** How long one step may take: a sign-up that comes meanwhile waits for it. */
const STEP_MS = 6
/**
 * A server takes its time for each commit, however little is in it: there a step takes up to so many times what the smallest
 * step takes, for sign-ups wait for commits anyway.
 */
const TIMES_SMALLEST = 3
const LONGEST_STEP_MS = 200
/** After so many steps the smallest one is timed again. */
const TIMED_EVERY = 50
const FEWEST = 10
const MOST = 1_000
/** Within what services are given to stop. */
const STOP_MS = 10_000
/** Pauses after tries of a batch that failed: a full disk may be mended meanwhile. Then the batch is stopped. */
const PAUSES_MS = [2_000, 10_000, 60_000, 300_000]
/** Another process has it, or this one ends. */
const OTHERS_MS = 1_000

/** Applies batches, in steps so small that sign-ups hardly wait. */
export class BatchWorker {
  private readonly lane: Lane
  /** People a step, as fast as this machine has been so far. */
  private most = 50
  /** How often in a row a batch failed, since this process began. */
  private readonly failures = new Map<string, number>()

  constructor(
    private readonly ledger: Ledger,
    private readonly now: () => number,
  ) {
    this.lane = new Lane(ledger.queue, now, {
      worker: BATCHES,
      ready: async () => ({ most: 1 }),
      work: ([job]) => this.apply(job!),
      stopMs: STOP_MS,
    })
  }

  start(): () => Promise<void> {
    return this.lane.start(this.ledger.onNews)
  }

  private async apply({ id }: Job): Promise<number> {
    const { queue } = this.ledger
    if (!(await queue.take(id))) return OTHERS_MS
    try {
      const isDone = await this.applyAll(id)
      if (isDone) await queue.settle(id, { state: 'done', said: '' })
      return isDone ? 0 : OTHERS_MS
    } catch (error) {
      await this.failed(id, error)
      return 0
    }
  }

  /** Retries later, then stops the batch: its applied part can be undone, and later batches have their turn. */
  private async failed(id: string, error: unknown): Promise<void> {
    complain(error)
    const failures = this.failures.get(id) ?? 0
    const pause = PAUSES_MS[failures]
    const said = error instanceof Error ? error.message : String(error)
    if (pause === undefined) {
      await this.ledger.batches.stop(id)
      await this.ledger.queue.settle(id, { state: 'refused', said, isTarget: false })
      this.failures.delete(id)
    } else {
      this.failures.set(id, failures + 1)
      await this.ledger.queue.settle(id, { state: 'later', said, due: this.now() + pause })
    }
  }

  /** False where the receiver stops before it is done: another start goes on. */
  private async applyAll(id: string): Promise<boolean> {
    let smallest = Infinity
    for (let steps = 0; ; steps++) {
      if (this.lane.hasEnded) return false
      const isTimed = steps % TIMED_EVERY === 0
      const most = isTimed ? FEWEST : this.most
      const begunAt = performance.now()
      if ((await this.ledger.batches.step(id, most)) === null) return true
      this.failures.delete(id)
      const took = performance.now() - begunAt
      // One that was held up by something else says little.
      if (isTimed) smallest = Math.min(took, 1.5 * smallest)
      const stepMs = Math.min(LONGEST_STEP_MS, Math.max(STEP_MS, TIMES_SMALLEST * smallest))
      if (!isTimed) this.most = Math.round(Math.min(MOST, Math.max(FEWEST, (most * stepMs) / Math.max(1, took))))
      // Lets pending writes commit, which would otherwise wait for the next step too.
      await new Promise((resolve) => setTimeout(resolve, 1))
    }
  }
}
