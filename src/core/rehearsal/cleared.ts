import { personFor, type Step } from '#core/proof'
import { fillsOf } from '#core/usable'

import { obstacleMet } from './visit-findings'
import { visit } from './sign-up'
import { addressOf, type CaseContext, formMet } from './way'

/**
 * A doubt that the markup alone raises, as a browser at desk and at phone size sees it: gone where the form can be used.
 */
export async function cleared(way: CaseContext, doubt: Omit<Step, 'ms'>): Promise<Omit<Step, 'ms'>> {
  if (way.ports.browser?.kind !== 'visits') return doubt
  const fills = fillsOf(way.content, personFor(way.content, addressOf(way, 'look')))
  for (const viewer of ['desk', 'phone'] as const) {
    const seen = await visit(way, { viewer, fills, presses: 0 })
    if (!seen.isTried || obstacleMet(seen, formMet(way)) !== null) return doubt
  }
  return settled(doubt)
}

export function settled(doubt: Omit<Step, 'ms'>): Omit<Step, 'ms'> {
  return {
    case: doubt.case,
    station: doubt.station,
    what: doubt.what,
    verdict: 'passed',
    seen: `A browser shows it, at desk and at phone size, and every field can be filled in. By the page’s source alone it looked otherwise: ${doubt.seen}`,
  }
}
