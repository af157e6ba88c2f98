import { Worker } from 'node:worker_threads'
import { inTagsCode } from '#core/inlining'
import { spotsOnPage } from '#core/crawl'
import type { ExpectedCode, PageToCheck } from '#core/install'
import { OutsideProblem } from '../outside'
import { linksOn } from './links-on'
import { readSitemap, type Sitemap, SitemapProblem } from './sitemap'
import { stillPage } from './still-page'

export interface JudgedPage {
  spots: ReturnType<typeof spotsOnPage>
  /** Whole addresses that the page leads to. */
  links: string[]
}

/** What is read beside the thread that takes sign-ups, because it came from outside and may be of any size and shape. */
const readings = {
  page(page: PageToCheck, expected: readonly ExpectedCode[]): JudgedPage {
    const whole = expected.map((one) => ({ ...one, inTags: inTagsCode }))
    return { spots: spotsOnPage(page, whole), links: linksOn(page) }
  },
  sitemap: (bytes: Uint8Array): Sitemap => readSitemap(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)),
  still: (address: string, allowed: readonly string[]) => stillPage(address, allowed),
}
type Readings = typeof readings
type Name = keyof Readings
type Result<One extends Name> = Awaited<ReturnType<Readings[One]>>

export interface ReadingWish {
  name: Name
  args: readonly unknown[]
}
/** `of` says whose words they are: an owner is told why. */
export type ReadingAnswer =
  { ok: true; result: unknown } | { ok: false; of: 'sitemap' | 'outside' | null; said: string }

export async function answerTo({ name, args }: ReadingWish): Promise<ReadingAnswer> {
  try {
    return { ok: true, result: await (readings[name] as (...args: readonly unknown[]) => unknown)(...args) }
  } catch (error) {
    if (error instanceof SitemapProblem) return { ok: false, of: 'sitemap', said: error.message }
    if (error instanceof OutsideProblem) return { ok: false, of: 'outside', said: error.message }
    // Deeper than the stack: no browser would show it like that.
    if (error instanceof RangeError)
      return { ok: false, of: 'outside', said: 'It could not be read: it is nested deeper than browsers go.' }
    return { ok: false, of: null, said: error instanceof Error ? error.message : String(error) }
  }
}

/** The largest page that is fetched is read in less than a second; a still also waits for its pictures. */
const LONGEST_MS = 60_000
const MOST_MEMORY_MB = 384

export interface Reading {
  /** @throws SitemapProblem, OutsideProblem in words for the owner */
  read<One extends Name>(name: One, ...args: Parameters<Readings[One]>): Promise<Result<One>>
  end(): void
}

/**
 * Reads one thing after another.
 *
 * @param thread the built `reading-thread.ts`; undefined reads in this thread
 */
export function openReading(thread: string | undefined): Reading {
  let worker: Worker | null = null
  const drop = () => {
    void worker?.terminate()
    worker = null
  }
  return {
    async read<One extends Name>(name: One, ...args: Parameters<Readings[One]>): Promise<Result<One>> {
      const wish: ReadingWish = { name, args }
      let answer: ReadingAnswer
      if (thread === undefined) answer = await answerTo(wish)
      else {
        worker ??= new Worker(thread, { resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB } })
        answer = await asked(worker, wish)
        if (!answer.ok && answer.of === null) drop()
      }
      if (answer.ok) return answer.result as Result<One>
      if (answer.of === 'sitemap') throw new SitemapProblem(answer.said)
      throw new OutsideProblem(answer.said)
    },
    end: drop,
  }
}

/** One answer of a thread; where it ends or takes too long, that. */
function asked(worker: Worker, wish: ReadingWish): Promise<ReadingAnswer> {
  return new Promise((resolve) => {
    const end = (answer: ReadingAnswer) => {
      clearTimeout(timer)
      worker.off('message', end)
      worker.off('error', broken)
      resolve(answer)
    }
    const broken = () => end({ ok: false, of: null, said: 'It could not be read: it is too large.' })
    const timer = setTimeout(() => end({ ok: false, of: null, said: 'It took too long to read.' }), LONGEST_MS)
    worker.on('message', end)
    worker.on('error', broken)
    worker.postMessage(wish)
  })
}
