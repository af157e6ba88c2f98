import { inTagsCode } from '#core/inlining'
import { checkInstall, type ExpectedCode, type InstallReport, type PageToCheck } from '#core/install'

export interface InstallWish {
  page: PageToCheck
  expected: Omit<ExpectedCode, 'inTags'>
}
export type InstallAnswer = { ok: true; report: InstallReport } | { ok: false; message: string }

/** Looks for a spot's code in a page. */
self.addEventListener('message', ({ data: { page, expected } }: MessageEvent<InstallWish>) => {
  let answer: InstallAnswer
  try {
    answer = { ok: true, report: checkInstall(page, { ...expected, inTags: inTagsCode }) }
  } catch (error) {
    answer = { ok: false, message: error instanceof Error ? error.message : 'the page could not be read' }
  }
  self.postMessage(answer)
})
