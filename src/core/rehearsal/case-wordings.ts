import { wordingStep } from '#core/proof'
import { joiningByHand } from './joining'
import { NEEDS_BROWSER } from './sign-up'
import { type CaseSteps, notTried } from './step'
import { isOurs, type CaseContext } from './way'

/** Each wording of a trial that goes on: somebody is shown it, and signs up. */
export async function* wordings(way: CaseContext): CaseSteps {
  // Plain code shows what was pasted, always the same.
  if (way.standing.through === 'markup' && way.standing.fetched === way.standing.sitePage && !isOurs(way)) return
  for (const [at, { name, version }] of (way.subject.wordings ?? []).entries()) {
    const shown: CaseContext = { ...way, version, content: version.content, wording: version.number }
    if (way.ports.browser?.kind !== 'visits') yield notTried('form', wordingStep(name), NEEDS_BROWSER)
    else yield* joiningByHand(shown, 'desk', `wording${at + 1}`, wordingStep(name))
  }
}
