import { keepableText } from '#core/text'
import { hasPassed } from '../clock'
import type { Engine, Transaction } from '../subjects'
import type { Job, JobState } from './tables'
import { newHolder, openTurn, type Turn } from './turn'

/** What became of one try. */
export type JobOutcome =
  | { state: 'done'; said: string }
  /** For good. `isTarget` where it is the one it was for who cannot be reached. */
  | { state: 'refused'; said: string; isTarget: boolean }
  | { state: 'later'; said: string; due: number }
  /** It is not needed any more. */
  | { state: 'dropped'; said: string }

/** The durable queue: every promise of a writing method resolves after its change is on disk. */
export interface Queue {
  /** What one receiver does at a time of those that share the store, such as working off a lane. */
  turn(name: string): Turn
  due(worker: string, limit: number): Promise<Job[]>
  nextDue(worker: string): Promise<number | null>
  /** Takes a job in hand, so that it is known after a crash that it may have been done. False when another has it. */
  take(id: string): Promise<boolean>
  /** Takes several in hand as one. Resolves with those that no other has. */
  takeAll(jobs: readonly Job[]): Promise<Job[]>
  /** Releases leased jobs that were not begun: each is as `due` told it. */
  letGo(jobs: readonly Job[]): Promise<void>
  /** Holds on to all that this process has in hand. Has to be called before a lease is over, again and again. */
  holdOn(): Promise<void>
  /** Lets go of what processes before had in hand: they are gone, where the store is held by this one alone. */
  forgetLeases(): Promise<void>
  /** Moves due times forward by so much: the clock went back. */
  setBack(byMs: number): Promise<void>
  settle(id: string, outcome: JobOutcome): Promise<void>
  /**
   * Replaces a job that stands for many by jobs for some of them and one for the rest, in one transaction. They count as
   * queued when it was: each goes before what is queued later for the same person.
   */
  spread(job: Job, into: (transaction: Transaction) => Promise<readonly Job[]>): Promise<void>
  /** Adds a job that no entry of the journal causes. */
  add(job: Job): Promise<boolean>
  /** Has all that wait for their next try tried at once, as if for the first time. */
  hurry(worker: string): Promise<void>
  /** Tries one that was refused, or that waits for its next try, as if for the first time: now, or when it is said. */
  tryAgain(id: string, due?: number): Promise<boolean>
  /** Has one that waits be tried later; its tries so far count. */
  putOff(id: string, due: number): Promise<boolean>
  job(id: string): Promise<Job | null>
  inState(worker: string, state: JobState, limit: number): Promise<Job[]>
  ofSpace(space: string): Promise<Job[]>
  withLimitKey(worker: string, limitKey: string, limit: number): Promise<Job[]>
  counts(worker: string): Promise<Record<JobState | 'held', number>>
  /** How long the open job is overdue that is due longest, in seconds; 0 where none is. */
  overdueSeconds(worker: string): Promise<number>
  /** How many were done since a time, by the second in which they were, in milliseconds since 1970. */
  doneSince(worker: string, time: number): Promise<{ at: number; count: number }[]>
}

/** How long a job is in the hands of who took it. Who ends without a word lets go of it then. */
export const LEASE_MS = 15_000
/** How long jobs that came to their end are listed. */
const LISTED_MS = 30 * 86_400_000
const PRUNED_EVERY_MS = 3_600_000

/**
 * @param run as `engine.run`, for what brings news
 * @param tried called in the transaction in which the outcome of a job's try is written
 */
export function openQueue(
  engine: Engine,
  run: <T>(work: (transaction: Transaction) => Promise<T>) => Promise<T>,
  now: () => number,
  tried: (transaction: Transaction, job: Job, outcome: JobOutcome) => Promise<unknown>,
): Queue {
  const holder = newHolder()
  let prunedAt = 0
  const change = (id: string, changesOf: (job: Job) => Partial<Job> | null) =>
    engine.run(async (transaction) => {
      const job = await transaction.job(id)
      const changes = job === null ? null : changesOf(job)
      if (job === null || changes === null) return false
      await transaction.keepJob({ ...job, ...changes })
      return true
    })
  return {
    turn: (name) => openTurn(engine, now, name, holder),
    due: (worker, limit) => engine.now.dueJobs(worker, now(), limit),
    nextDue: (worker) => engine.now.nextJobDue(worker),
    take: (id) => engine.run((transaction) => transaction.takeJob(id, holder, now(), now() + LEASE_MS)),
    takeAll: (jobs) =>
      engine.run(async (transaction) => {
        const taken: Job[] = []
        for (const job of jobs) if (await transaction.takeJob(job.id, holder, now(), now() + LEASE_MS)) taken.push(job)
        return taken
      }),
    letGo: (jobs) =>
      engine.run(async (transaction) => {
        for (const { id, holder: before, heldUntil, attempts } of jobs) {
          const job = await transaction.job(id)
          if (job?.holder === holder) await transaction.keepJob({ ...job, holder: before, heldUntil, attempts })
        }
      }),
    holdOn: () => engine.run((transaction) => transaction.renewJobs(holder, now() + LEASE_MS)),
    forgetLeases: () => engine.run((transaction) => transaction.forgetLeases()),
    setBack: (byMs) => engine.run((transaction) => transaction.setBackJobs(byMs, now(), now() + LEASE_MS)),
    settle: (id, outcome) =>
      run(async (transaction) => {
        const job = await transaction.job(id)
        if (job === null) return
        const said = keepableText(outcome.said, 500)
        await transaction.keepJob(
          outcome.state === 'later'
            ? { ...job, holder: '', heldUntil: 0, due: outcome.due, said }
            : { ...job, holder: '', heldUntil: 0, state: outcome.state, due: now(), said },
        )
        await tried(transaction, job, { ...outcome, said })
        if (hasPassed(prunedAt, PRUNED_EVERY_MS, now())) {
          prunedAt = now()
          await transaction.forgetJobs(now() - LISTED_MS)
        }
      }),
    spread: (job, into) =>
      engine.run(async (transaction) => {
        await transaction.dropJob(job.id)
        for (const part of await into(transaction)) await transaction.queue({ ...part, queued: job.queued })
      }),
    add: (job) => run((transaction) => transaction.queue(job)),
    hurry: (worker) => engine.run((transaction) => transaction.hurryJobs(worker, now())),
    tryAgain: (id, due = now()) =>
      change(id, ({ state, holder }) =>
        state !== 'done' && holder === '' ? { state: 'open', due, attempts: 0 } : null,
      ),
    putOff: (id, due) => change(id, ({ state, holder }) => (state === 'open' && holder === '' ? { due } : null)),
    job: (id) => engine.now.job(id),
    inState: (worker, state, limit) => engine.now.jobsInState(worker, state, limit),
    ofSpace: (space) => engine.now.jobsOfSpace(space),
    withLimitKey: (worker, limitKey, limit) => engine.now.jobsWithLimitKey(worker, limitKey, limit),
    counts: (worker) => engine.now.countJobs(worker),
    overdueSeconds: async (worker) => {
      const due = await engine.now.nextJobDue(worker)
      return due === null ? 0 : Math.max(0, (now() - due) / 1000)
    },
    doneSince: (worker, time) => engine.now.jobsDoneSince(worker, time),
  }
}
