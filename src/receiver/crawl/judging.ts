import { Worker } from 'node:worker_threads'
import { inTagsCode } from '#core/inlining'
import { spotsOnPage } from '#core/crawl'
import type { ExpectedCode, PageToCheck } from '#core/install'
import { linksOn } from './links-on'

export interface JudgedPage {
  spots: ReturnType<typeof spotsOnPage>
  /** Whole addresses that the page leads to. */
  links: string[]
}
export type JudgeAnswer = { ok: true; judged: JudgedPage } | { ok: false; message: string }

/** How long a page may be read: the largest that is fetched takes less than a second. */
const LONGEST_MS = 20_000
const MOST_MEMORY_MB = 256

/** Reads pages beside the thread that takes sign-ups, whatever they are made of. */
export interface Judge {
  judge(page: PageToCheck): Promise<JudgedPage>
  end(): void
}

export function judgePage(page: PageToCheck, expected: readonly ExpectedCode[]): JudgedPage {
  const whole = expected.map((one) => ({ ...one, inTags: inTagsCode }))
  return { spots: spotsOnPage(page, whole), links: linksOn(page) }
}

/** @param thread the built `judge-thread.ts`; undefined reads in this thread */
export function openJudge(expected: readonly ExpectedCode[], thread: string | undefined): Judge {
  if (thread === undefined)
    return {
      judge: async (page) => judgePage(page, expected),
      end: () => {},
    }
  let worker: Worker | null = null
  const drop = () => {
    void worker?.terminate()
    worker = null
  }
  return {
    judge: (page) =>
      new Promise((resolve, reject) => {
        worker ??= new Worker(thread, {
          workerData: expected,
          resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
        })
        const mine = worker
        const fail = (message: string) => {
          drop()
          end()
          reject(new Error(message))
        }
        const timer = setTimeout(() => fail('The page took too long to read.'), LONGEST_MS)
        const onError = () => fail('The page could not be read: it is too deep, or too large.')
        const end = () => {
          clearTimeout(timer)
          mine.off('error', onError)
          mine.off('message', onMessage)
        }
        const onMessage = (answer: JudgeAnswer) => {
          end()
          if (answer.ok) resolve(answer.judged)
          else reject(new Error(answer.message))
        }
        mine.on('error', onError)
        mine.on('message', onMessage)
        mine.postMessage(page)
      }),
    end: drop,
  }
}
