import { gatherWork } from './gathering'
import { endOf, parsed, type Row, type SubjectTables } from '../store'
import { migrations } from './schema'
import { workStatements } from './statements'

/** The priority from which on nobody waits for something, or it has a day of its own. */
export const LATER = 1_000_000

/** Open until it came to its end, one way or another. */
export type JobState = 'open' | 'done' | 'refused' | 'dropped'

/** Something to be done later by one of the queue's workers, such as sending a mail. Times in milliseconds since 1970. */
export interface Job {
  id: string
  /** Which worker does it. */
  worker: string
  /** A rehearsal's code; empty for what concerns real people. */
  space: string
  /** Of those that are due, the lowest goes first. */
  priority: number
  /** Jobs of one worker and key are done one after the other, in the order in which they were queued; empty for any order. */
  orderKey: string
  /** Jobs of one key are counted together, so that a limit holds for all of them: of mail, the inbox. */
  limitKey: string
  queued: number
  /** While open, when it may be taken; from then on, when it came to its end. */
  due: number
  /** Process that leases the job; empty for none. */
  holder: string
  /** End of the lease, unless renewed; 0 for none. */
  heldUntil: number
  state: JobState
  attempts: number
  /** Last answer, or why nothing was done. */
  said: string
  /** What the worker has to know, as JSON. */
  body: unknown
}

/** A job to be queued: due at once, for real people, in any order and without a limit, where not said otherwise. */
export const openJob = (given: Pick<Job, 'id' | 'worker' | 'body'> & Partial<Job>, now: number): Job => ({
  ...{ space: '', priority: 1, orderKey: '', limitKey: '', queued: now, due: now },
  ...{ holder: '', heldUntil: 0, state: 'open', attempts: 0, said: '' },
  ...given,
})

export interface WorkQueries {
  /**
   * Queues an open job. One of the same id that is queued already stays as it is.
   *
   * @param most none is queued where so many with the same limit key were since then; such a job has an id of its own
   * @returns whether it was queued
   */
  queue(job: Job, most?: { count: number; since: number }): Promise<boolean>
  /** Queues an open job that never was, which its id tells. */
  queueNew(job: Job): Promise<void>
  job(id: string): Promise<Job | null>
  /** Keeps what changes of a job: its state, and when, by whom and how often it is tried. */
  keepJob(job: Job): Promise<void>
  dropJob(id: string): Promise<void>
  /** Those that may be taken now, by their priority and then the oldest first. None before whose turn it is by its order key. */
  dueJobs(worker: string, now: number, limit: number): Promise<Job[]>
  /** When the next one may be taken; null for none. */
  nextJobDue(worker: string): Promise<number | null>
  /** Takes an open job that is due in hand until a time. False where somebody else has it. */
  takeJob(id: string, holder: string, now: number, until: number): Promise<boolean>
  /** Holds on to all that somebody has in hand. */
  renewJobs(holder: string, until: number): Promise<void>
  /** The last holder stays known: the job may have been done. */
  forgetLeases(): Promise<void>
  /** Jobs that are due after a time come so much sooner, and leases beyond another end with it. */
  setBackJobs(byMs: number, dueAfter: number, heldAfter: number): Promise<void>
  /** Newest first, those that concern real people. */
  jobsInState(worker: string, state: JobState, limit: number): Promise<Job[]>
  jobsOfSpace(space: string): Promise<Job[]>
  dropJobsOfSpace(space: string): Promise<void>
  /** Newest first, those that concern real people. */
  jobsWithLimitKey(worker: string, limitKey: string, limit: number): Promise<Job[]>
  /** Of those that concern real people; `held` are open ones that somebody has in hand. */
  countJobs(worker: string): Promise<Record<JobState | 'held', number>>
  /** Those that concern real people, by the second in which they were done. */
  jobsDoneSince(worker: string, time: number): Promise<{ at: number; count: number }[]>
  /** Those that came to their end before a time. */
  forgetJobs(before: number): Promise<void>
  /** All that wait for another try are due now, as if for the first time. */
  hurryJobs(worker: string, now: number): Promise<void>
  /** Number of jobs whose order key has a prefix, in any state. */
  countOrdered(beginning: string): Promise<number>
  /** Takes jobs away whose order keys begin so. */
  dropOrdered(beginning: string): Promise<void>
}

const jobOf = (row: Row): Job => ({
  id: String(row.id),
  worker: String(row.worker),
  space: String(row.space),
  priority: Number(row.priority),
  orderKey: String(row.order_key),
  limitKey: String(row.limit_key),
  queued: Number(row.queued),
  due: Number(row.due),
  holder: String(row.holder),
  heldUntil: Number(row.held_until),
  state: row.state as JobState,
  attempts: Number(row.attempts),
  said: String(row.said),
  body: parsed<unknown>(row.body),
})

// By the index `queue_by_order`. Of those queued in the same millisecond, the lower id goes first.

export const workTables: SubjectTables<WorkQueries> = {
  migrations,
  gather: gatherWork,
  queries(database) {
    const statements = workStatements(database)
    const queries: WorkQueries = {
      async queue({ id, worker, space, priority, orderKey, limitKey, queued, due, body }, most) {
        const { count = Number.MAX_SAFE_INTEGER, since = 0 } = most ?? {}
        const columns = [id, worker, space, priority, orderKey, limitKey, queued, due, JSON.stringify(body)]
        const isQueued = (await statements.queue.run(...columns, limitKey, since, count)).changes > 0
        if (isQueued && space === '') await statements.addToCount.run(worker, 'open', 1)
        return isQueued
      },
      async queueNew(job) {
        await queries.queue(job)
      },
      async job(id) {
        const row = await statements.job.get(id)
        return row === undefined ? null : jobOf(row)
      },
      async keepJob({ id, due, holder, heldUntil, state, attempts, said }) {
        const before = await statements.job.get(id)
        if (before === undefined) return
        await statements.keepJob.run(due, holder, heldUntil, state, attempts, said, id)
        if (before.space !== '' || before.state === state) return
        await statements.addToCount.run(before.worker, before.state, -1)
        await statements.addToCount.run(before.worker, state, 1)
      },
      async dropJob(id) {
        const before = await statements.job.get(id)
        await statements.dropJob.run(id)
        if (before?.space === '') await statements.addToCount.run(before.worker, before.state, -1)
      },
      async dueJobs(worker, now, limit) {
        const soon = (await statements.dueJobs.all(worker, LATER, now, now, limit)).map(jobOf)
        if (soon.length === limit) return soon
        const later = await statements.dueLaterJobs.all(worker, LATER, now, now, limit - soon.length)
        return [...soon, ...later.map(jobOf)]
      },
      async nextJobDue(worker) {
        const [free, held] = await Promise.all([statements.nextJobDue.get(worker), statements.nextLeaseEnd.get(worker)])
        const times = [free?.due, held?.at].flatMap((time) =>
          time === undefined || time === null ? [] : [Number(time)],
        )
        return times.length === 0 ? null : Math.min(...times)
      },
      async takeJob(id, holder, now, until) {
        return (await statements.takeJob.run(holder, until, id, now, now)).changes > 0
      },
      async renewJobs(holder, until) {
        await statements.renewJobs.run(until, holder)
      },
      async forgetLeases() {
        await statements.forgetLeases.run()
      },
      async setBackJobs(byMs, dueAfter, heldAfter) {
        await statements.setBackJobs.run(byMs, dueAfter)
        await statements.shortenLeases.run(heldAfter, heldAfter)
      },
      async jobsInState(worker, state, limit) {
        return (await statements.jobsInState.all(state, worker, limit)).map(jobOf)
      },
      async jobsOfSpace(space) {
        return (await statements.jobsOfSpace.all(space)).map(jobOf)
      },
      async dropJobsOfSpace(space) {
        await statements.dropJobsOfSpace.run(space)
      },
      async jobsWithLimitKey(worker, limitKey, limit) {
        return (await statements.jobsWithLimitKey.all(limitKey, worker, limit)).map(jobOf)
      },
      async countJobs(worker) {
        const counts = { open: 0, held: 0, done: 0, refused: 0, dropped: 0 }
        for (const { state, count } of await statements.countJobs.all(worker)) counts[state as JobState] = Number(count)
        counts.held = Number((await statements.countHeld.get(worker))?.count ?? 0)
        return counts
      },
      async jobsDoneSince(worker, time) {
        const rows = await statements.jobsDoneSince.all(worker, time)
        return rows.map((row) => ({ at: Number(row.at), count: Number(row.count) }))
      },
      async forgetJobs(before) {
        for (const { worker, state, count } of await statements.countEnded.all(before))
          await statements.addToCount.run(worker, state, -Number(count))
        await statements.forgetJobs.run(before)
      },
      async hurryJobs(worker, now) {
        await statements.hurryJobs.run(now, worker, now)
      },
      async countOrdered(beginning) {
        const rows = await statements.countOrdered.all(beginning, endOf(beginning))
        return rows.reduce((sum, { count }) => sum + Number(count), 0)
      },
      async dropOrdered(beginning) {
        for (const { worker, state, space, count } of await statements.countOrdered.all(beginning, endOf(beginning)))
          if (space === '') await statements.addToCount.run(worker, state, -Number(count))
        await statements.dropOrdered.run(beginning, endOf(beginning))
      },
    }
    return queries
  },
}
