import { complain } from '../log'
import type { Values } from '../values'
import { newId } from '../random'

/** Something that is done now and again, by one of the processes that share a store. */
export interface RecurringJob {
  name: string
  everyMs: number
  /** How long after the first start it is done first; `everyMs` where not said. */
  firstAfterMs?: number
  /** How long it may take at most: after that another process may begin it. */
  longestMs: number
  /** Whether it ends what some time has passed for: where time is made up, it is looked for more often. */
  endsTimes?: boolean
  run(): Promise<unknown>
}

/** Lets go of what a process before had in hand, which is gone where the data folder is held by this one alone. */
export async function forgetRecurringLeases(values: Values): Promise<void> {
  for (const { name } of await values.named(NAMED))
    await values.change<Kept>(name, (kept) => (kept === null ? undefined : { ...kept, holder: '', heldUntil: 0 }))
}

/** What is kept of a job. Times in milliseconds since 1970. */
interface Kept {
  next: number
  holder: string
  heldUntil: number
}

const NAMED = 'clock '
const LOOK_EVERY_MS = 5_000
/** Within what services are given to stop. */
const STOP_MS = 10_000

/**
 * Does what is due, each job by itself and never twice at once, until the returned function is called, which waits for what
 * is at work, though not for ever. When each is due next is kept in the store, so a start neither forgets one nor does it
 * anew.
 *
 * @param madeUpMs where time is made up, it may pass faster: how often is looked then; null else
 */
export function runRecurring(
  given: readonly RecurringJob[],
  values: Values,
  now: () => number,
  madeUpMs: number | null = null,
): () => Promise<void> {
  const jobs = madeUpMs === null ? given : given.map((job) => hastened(job, madeUpMs))
  const me = newId<string>()
  const atWork = new Map<string, Promise<void>>()

  async function look(): Promise<void> {
    const stored = new Map((await values.named(NAMED)).map(({ name, value }) => [name, value as Kept]))
    for (const job of jobs) {
      const kept = stored.get(NAMED + job.name) ?? null
      if ((kept === null || isDue(kept, job)) && !atWork.has(job.name)) {
        const working = work(job).finally(() => atWork.delete(job.name))
        atWork.set(job.name, working)
      }
    }
  }

  /** Nothing is put off, or held, for longer than this: what is was written before the clock was set back. */
  function isDue({ next, heldUntil }: Kept, { everyMs, firstAfterMs = everyMs, longestMs }: RecurringJob): boolean {
    const isPast = (time: number, longest: number) => time <= now() || time > now() + longest
    return isPast(next, Math.max(everyMs, firstAfterMs)) && isPast(heldUntil, longestMs)
  }

  async function work(job: RecurringJob): Promise<void> {
    try {
      if (await take(job)) await job.run().finally(() => letGo(job))
    } catch (error) {
      complain(error)
    }
  }

  /** False where another process has it in hand, or where it is not due yet. */
  async function take(job: RecurringJob): Promise<boolean> {
    const { name, everyMs, firstAfterMs = everyMs, longestMs } = job
    const lease = await values.change<Kept>(NAMED + name, (before) => {
      if (before === null && firstAfterMs > 0) return { next: now() + firstAfterMs, holder: '', heldUntil: 0 }
      if (before !== null && !isDue(before, job)) return before
      return { next: now() + everyMs, holder: me, heldUntil: now() + longestMs }
    })
    return lease?.holder === me && lease.heldUntil > now()
  }

  async function letGo({ name }: RecurringJob): Promise<void> {
    await values.change<Kept>(NAMED + name, (kept) =>
      kept === null || kept.holder !== me ? (kept ?? undefined) : { ...kept, holder: '', heldUntil: 0 },
    )
  }

  let looking: Promise<void> = Promise.resolve()
  const again = () => (looking = look().catch(complain))
  void again()
  const timer = setInterval(() => void again(), madeUpMs ?? LOOK_EVERY_MS)
  timer.unref()
  return async () => {
    clearInterval(timer)
    let longest: ReturnType<typeof setTimeout> | undefined
    const over = new Promise<void>((resolve) => (longest = setTimeout(resolve, STOP_MS)))
    const done = looking.then(() => Promise.all(atWork.values()))
    await Promise.race([done, over])
    clearTimeout(longest)
  }
}

function hastened(job: RecurringJob, everyMs: number): RecurringJob {
  if (job.endsTimes !== true) return job
  return {
    ...job,
    everyMs,
    ...(job.firstAfterMs !== undefined && { firstAfterMs: Math.min(job.firstAfterMs, everyMs) }),
  }
}
