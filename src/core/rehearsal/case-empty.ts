import { expectedError, judgeRefusal, requiredFields } from '#core/proof'
import { notDone, signUp } from './sign-up'
import { type CaseSteps, judged } from './step'
import type { CaseContext } from './way'

export async function* empty(way: CaseContext): CaseSteps {
  const required = requiredFields(way.content)
  const tried = await signUp(way, {})
  if (!tried.isTried) return yield notDone('form', 'Required fields empty', tried)
  const wanted = new Map(required.map((field) => [field.key, expectedError(way.content, field, 'missing')]))
  yield judged(
    'form',
    'Nothing filled in',
    judgeRefusal(wanted, tried.shown, 'An empty form', tried.evidence),
    `Asked for again: ${required.map(({ label, key }) => label.trim() || key).join(', ')}.`,
  )
}
