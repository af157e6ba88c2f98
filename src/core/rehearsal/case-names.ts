import { nameFields, unusualNames } from '#core/proof'
import { joining } from './joining'
import type { CaseSteps } from './step'
import type { Way } from './way'

export async function* names(way: Way): CaseSteps {
  const [field] = nameFields(way.content)
  if (field === undefined) return
  for (const [at, { what, name }] of unusualNames.entries()) {
    const steps = joining(way, `name${at}`, `A name ${what}`, { [field.key]: { text: name } })
    yield* steps
  }
}
