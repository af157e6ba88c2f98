import { checkInstall, type ExpectedCode, type InstallReport, type PageToCheck } from '#core/install'
import type { SpotOnPage } from './report'

/** What each spot is on a page; those that are not there, and need not be, are left out. */
export function spotsOnPage(
  page: PageToCheck,
  expected: readonly ExpectedCode[],
): Record<string, { state: SpotOnPage; said: string }> {
  const found: Record<string, { state: SpotOnPage; said: string }> = {}
  for (const one of expected) {
    // Reading costs; code that is named nowhere is not there.
    if (one.code !== 'rule' && !page.html.includes(one.spot.id) && !page.html.includes(one.spot.slug ?? one.spot.id))
      continue
    const here = outcomeOf(checkInstall(page, one))
    if (here !== null) found[one.spot.id] = here
  }
  return found
}

function outcomeOf({ state, findings }: InstallReport): { state: SpotOnPage; said: string } | null {
  const said = findings[0]?.message ?? ''
  const has = (code: string) => findings.some((finding) => finding.code === code)
  if (has('rule-elsewhere') || has('rule-unpublished')) return null
  if (has('no-place')) return { state: 'no-place', said: findings.find(({ code }) => code === 'no-place')!.message }
  if (state === 'absent') return null
  if (state === 'unclear') return { state: 'unseen', said }
  if (state === 'damaged') return { state: has('twice') ? 'twice' : has('older') ? 'older' : 'damaged', said }
  if (has('twice')) return { state: 'twice', said }
  return { state: has('older') ? 'older' : 'there', said }
}
