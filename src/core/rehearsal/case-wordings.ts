import { type PersonAnswers, personFor, wordingStep } from '#core/proof'
import { fillsOf } from '#core/usable'
import { answered, member } from './joining'
import { byHand, NEEDS_BROWSER, notDone } from './sign-up'
import { type CaseSteps, notTried, passed, pictured } from './step'
import { addressOf, isOurs, type Way } from './way'

/** Each wording of a trial that goes on: somebody is shown it, and signs up. */
export async function* wordings(way: Way): CaseSteps {
  // Plain code shows what was pasted, always the same.
  if (way.standing.through === 'markup' && way.standing.fetched === way.standing.sitePage && !isOurs(way)) return
  for (const [at, { name, version }] of (way.subject.wordings ?? []).entries()) {
    const what = wordingStep(name)
    if (way.ports.browser?.kind !== 'visits') {
      yield notTried('form', what, NEEDS_BROWSER)
      continue
    }
    const shown: Way = { ...way, version, content: version.content, wording: version.number }
    const email = addressOf(way, `wording${at + 1}`)
    const answers: PersonAnswers = personFor(shown.content, email)
    const tried = await byHand(shown, 'desk', fillsOf(shown.content, answers), 1)
    if (!tried.isTried) {
      yield notDone('form', what, tried)
      continue
    }
    yield pictured(passed('form', what, ['Shown, filled in and sent.', ...tried.remarks].join(' ')), tried.look ?? null)
    yield answered(shown, what, shown.outcome.joins, tried, answers)
    yield await member(shown, what, answers, email)
  }
}
