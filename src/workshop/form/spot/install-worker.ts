import { expose } from 'comlink'
import { inTagsCode } from '#core/inlining'
import { checkInstall, type ExpectedCode, type InstallReport, type PageToCheck } from '#core/install'

export interface InstallWish {
  page: PageToCheck
  expected: Omit<ExpectedCode, 'inTags'>
}

const functions = {
  /** Looks for a spot's code in a page. */
  look: ({ page, expected }: InstallWish): InstallReport => checkInstall(page, { ...expected, inTags: inTagsCode }),
}
export type InstallFunctions = typeof functions
expose(functions)
