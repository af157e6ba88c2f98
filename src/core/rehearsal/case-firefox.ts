import { personFor } from '#core/proof'
import { fillsOf } from '#core/usable'
import { answered, member } from './joining'
import { byHand, notDone } from './sign-up'
import { type CaseSteps, passed, pictured } from './step'
import { addressOf, type Way } from './way'

/** Somebody signs up in Firefox; nothing where there is none. */
export async function* firefox(way: Way): CaseSteps {
  const { browser } = way.ports
  if (browser?.kind !== 'visits' || browser.hasFirefox !== true) return
  const what = 'In Firefox'
  const email = addressOf(way, 'firefox')
  const answers = personFor(way.content, email)
  const tried = await byHand(way, 'firefox', fillsOf(way.content, answers), 1)
  if (!tried.isTried) return yield notDone('form', what, tried)
  yield pictured(passed('form', what, ['Filled in, and sent.', ...tried.remarks].join(' ')), tried.look ?? null)
  yield answered(way, what, way.outcome.joins, tried, answers)
  yield await member(way, what, answers, email)
}
