import type { Gather } from '../store'
import type { Job, WorkQueries } from './tables'

/** Whose limit a piece of work may come under: looked up for all that share a commit in one query. */
export interface AboutLimit {
  limitKey: string
}
const isAboutLimit = (about: unknown): about is AboutLimit =>
  typeof about === 'object' && about !== null && 'limitKey' in about

const QUEUE = `INSERT INTO queue (id, worker, space, priority, order_key, limit_key, queued, due, holder, held_until, state, attempts, said, body)
  SELECT id, worker, space, priority, order_key, limit_key, queued, due, '', 0, 'open', 0, '', body
  FROM unnest(?::text[], ?::text[], ?::text[], ?::int[], ?::text[], ?::text[], ?::bigint[], ?::bigint[], ?::text[])
    AS u (id, worker, space, priority, order_key, limit_key, queued, due, body)`
const COUNT = `INSERT INTO queue_counts (worker, state, count) SELECT worker, 'open', count
  FROM unnest(?::text[], ?::bigint[]) AS u (worker, count)
  ON CONFLICT (worker, state) DO UPDATE SET count = queue_counts.count + excluded.count`
const QUEUED = `SELECT limit_key, queued FROM queue WHERE limit_key = ANY(?::text[]) AND queued >= ?`

/** Jobs that writes of one commit queue are written by one statement, and their limits looked up by one. */
export const gatherWork: Gather<WorkQueries> = (base, ask) => {
  let jobs: Job[] = []
  let limitKeys: string[] = []
  /** When jobs of each limit key were queued, of those since `from`; null before it was looked up. */
  let queued: { from: number; at: Map<string, number[]> } | null = null

  const clear = () => {
    jobs = []
    limitKeys = []
    queued = null
  }

  async function flush(): Promise<void> {
    if (jobs.length === 0) return
    const all = jobs
    jobs = []
    await ask(QUEUE, [
      all.map(({ id }) => id),
      all.map(({ worker }) => worker),
      all.map(({ space }) => space),
      all.map(({ priority }) => priority),
      all.map(({ orderKey }) => orderKey),
      all.map(({ limitKey }) => limitKey),
      all.map((job) => job.queued),
      all.map(({ due }) => due),
      all.map(({ body }) => JSON.stringify(body)),
    ])
    const counts = new Map<string, number>()
    for (const { worker, space } of all) if (space === '') counts.set(worker, (counts.get(worker) ?? 0) + 1)
    if (counts.size > 0) await ask(COUNT, [[...counts.keys()], [...counts.values()]])
  }

  async function lookUp(from: number): Promise<Map<string, number[]>> {
    await flush()
    const at = new Map(limitKeys.map((key) => [key, [] as number[]]))
    for (const row of await ask(QUEUED, [limitKeys, from])) at.get(String(row.limit_key))?.push(Number(row.queued))
    queued = { from, at }
    return at
  }

  function keep(job: Job): void {
    jobs.push(job)
    queued?.at.get(job.limitKey)?.push(job.queued)
  }

  return {
    queries: {
      async queue(job, most) {
        // What is queued once is queued by its id, and of other limits nothing was looked up.
        if (most === undefined || !limitKeys.includes(job.limitKey)) {
          await flush()
          const isQueued = await base.queue(job, most)
          if (isQueued) queued?.at.get(job.limitKey)?.push(job.queued)
          return isQueued
        }
        const at = queued !== null && queued.from <= most.since ? queued.at : await lookUp(most.since)
        if (at.get(job.limitKey)!.filter((time) => time >= most.since).length >= most.count) return false
        keep(job)
        return true
      },
      async queueNew(job) {
        keep(job)
      },
    },
    async begin(abouts) {
      clear()
      limitKeys = [...new Set(abouts.filter(isAboutLimit).map(({ limitKey }) => limitKey))]
    },
    flush,
    clear,
  }
}
