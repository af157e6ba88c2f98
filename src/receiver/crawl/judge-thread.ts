import { parentPort, workerData } from 'node:worker_threads'
import type { ExpectedCode, PageToCheck } from '#core/install'
import { type JudgeAnswer, judgePage } from './judging'

/** The thread in which pages of a site are read. */
const expected = workerData as readonly ExpectedCode[]
parentPort!.on('message', (page: PageToCheck) => {
  let answer: JudgeAnswer
  try {
    answer = { ok: true, judged: judgePage(page, expected) }
  } catch {
    // Deeper than the stack: no browser would show it like that.
    answer = { ok: false, message: 'The page could not be read: it is nested deeper than browsers go.' }
  }
  parentPort!.postMessage(answer)
})
