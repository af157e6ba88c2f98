import { parentPort, Worker } from 'node:worker_threads'
import { OutsideProblem } from '../outside'

/**
 * The one room in which what comes from outside is read: pages, sitemaps, feeds, answers of services. Whatever its size and
 * shape, it neither holds up the thread that takes sign-ups nor ends the process: a reading has bounds in time and memory,
 * and a thread that goes beyond is ended and begun anew for the next.
 */

/** What can be read, by name. What is handed over and what comes back can be cloned (HTML, structured clone). */
export type Readings = Record<string, (...args: never[]) => unknown>
type Result<Table extends Readings, Name extends keyof Table> = Awaited<ReturnType<Table[Name]>>

interface ReadingWish {
  name: string
  args: readonly unknown[]
}
/** `isSaid`: in words for the owner; else something went wrong, and the thread is not used again. */
type ReadingAnswer = { ok: true; result: unknown } | { ok: false; isSaid: boolean; said: string }

async function answerTo({ name, args }: ReadingWish, readings: Readings): Promise<ReadingAnswer> {
  try {
    return { ok: true, result: await (readings[name] as (...args: readonly unknown[]) => unknown)(...args) }
  } catch (error) {
    if (error instanceof OutsideProblem) return { ok: false, isSaid: true, said: error.message }
    // Deeper than the stack.
    if (error instanceof RangeError)
      return { ok: false, isSaid: true, said: 'It could not be read: it is nested too deeply.' }
    return {
      ok: false,
      isSaid: false,
      said: `It could not be read: ${error instanceof Error ? error.message : String(error)}`,
    }
  }
}

/** Answers wishes in a thread, for `openReading` in the one that started it. */
export function serveReadings(readings: Readings): void {
  parentPort!.on(
    'message',
    (wish: ReadingWish) => void answerTo(wish, readings).then((answer) => parentPort!.postMessage(answer)),
  )
}

/** The largest page that is fetched is read in less than a second; a still also waits for its pictures. */
const LONGEST_MS = 60_000
/** In megabytes; a thread that wants more is ended. */
const MEMORY = { maxOldGenerationSizeMb: 256, maxYoungGenerationSizeMb: 32, stackSizeMb: 4 }
/** A thread that has nothing to read costs some 30 MB. */
const IDLE_MS = 30_000

export interface Reading<Table extends Readings> {
  /** @throws OutsideProblem in words for the owner */
  read<Name extends keyof Table & string>(name: Name, ...args: Parameters<Table[Name]>): Promise<Result<Table, Name>>
  end(): void
}

/**
 * Reads one thing after another.
 *
 * @param thread built program that serves the same table; undefined reads in this thread, by the table
 */
export function openReading<Table extends Readings>(
  thread: string | undefined,
  readings: Table,
  longestMs = LONGEST_MS,
): Reading<Table> {
  let worker: Worker | null = null
  let idle: ReturnType<typeof setTimeout> | undefined
  let turn: Promise<unknown> = Promise.resolve()
  const drop = () => {
    clearTimeout(idle)
    void worker?.terminate()
    worker = null
  }
  async function answer(wish: ReadingWish): Promise<ReadingAnswer> {
    if (thread === undefined) return answerTo(wish, readings)
    clearTimeout(idle)
    worker ??= new Worker(thread, { resourceLimits: MEMORY })
    const answered = await asked(worker, wish, longestMs)
    if (!answered.ok && !answered.isSaid) drop()
    else idle = setTimeout(drop, IDLE_MS).unref()
    return answered
  }
  return {
    async read<Name extends keyof Table & string>(
      name: Name,
      ...args: Parameters<Table[Name]>
    ): Promise<Result<Table, Name>> {
      const mine = turn.then(() => answer({ name, args }))
      turn = mine.catch(() => null)
      const answered = await mine
      if (!answered.ok) throw new OutsideProblem(answered.said)
      return answered.result as Result<Table, Name>
    },
    end: drop,
  }
}

/** One answer of a thread; where it ends or takes too long, that. */
function asked(worker: Worker, wish: ReadingWish, longestMs: number): Promise<ReadingAnswer> {
  return new Promise((resolve) => {
    const end = (answer: ReadingAnswer) => {
      clearTimeout(timer)
      worker.off('message', end)
      worker.off('error', broken)
      worker.off('exit', broken)
      resolve(answer)
    }
    const broken = () =>
      end({ ok: false, isSaid: false, said: 'It could not be read: it is too large, or nested too deeply.' })
    const timer = setTimeout(() => end({ ok: false, isSaid: false, said: 'It took too long to read.' }), longestMs)
    worker.on('message', end)
    worker.on('error', broken)
    worker.on('exit', broken)
    worker.postMessage(wish)
  })
}
