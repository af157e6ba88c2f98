import { expectedError, judgeKept, judgeRefusal, personFor, wrongAddresses } from '#core/proof'
import { notDone, signUp } from './sign-up'
import { type CaseSteps, judged } from './step'
import type { CaseContext } from './way'

export async function* wrong(way: CaseContext): CaseSteps {
  const field = way.content.fields.find(({ kind }) => kind === 'email')!
  for (const { what, address, wrong } of wrongAddresses) {
    const tried = await signUp(way, personFor(way.content, address))
    if (!tried.isTried) return yield notDone('form', 'Wrong addresses', tried)
    const message = expectedError(way.content, field, wrong)
    yield judged(
      'form',
      `An address ${what}`,
      judgeRefusal(new Map([[field.key, message]]), tried.shown, `“${address}”`, tried.evidence) ??
        judgeKept(field.key, address, tried.shown, tried.evidence),
      `Refused: “${message}”`,
    )
  }
}
