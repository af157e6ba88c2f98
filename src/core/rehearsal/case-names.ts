import { nameFields, unusualNames } from '#core/proof'
import { joining } from './joining'
import type { CaseSteps } from './step'
import type { CaseContext } from './way'

export async function* names(way: CaseContext): CaseSteps {
  const [field] = nameFields(way.content)
  if (field === undefined) return
  for (const [at, { what, name }] of unusualNames.entries()) {
    const steps = joining(way, `name${at}`, `A name ${what}`, { changes: { [field.key]: { text: name } } })
    yield* steps
  }
}
