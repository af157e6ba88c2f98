import { type FormContent, honeypotName } from '#core/form'
import type { PersonAnswers } from '#core/proof'
import type { Spot } from '#core/spot'
import { type Fill, fillsOf } from '#core/usable'

/** What of a spot's form a visitor has to do with: where it sends, which field nobody may see, how answers are put in. */
export interface FormFacts {
  action: string
  /** Null for none. */
  trap: string | null
  fillsFor(answers: PersonAnswers): Fill[]
}

/** Of a form that sends to the receiver, or straight to a service under the service's names. */
export function formFacts(content: FormContent, spot: Spot, receiver: string): FormFacts {
  const { direct } = content
  if (direct === undefined)
    return {
      action: `${receiver}/join/${spot.id}`,
      trap: honeypotName(spot.form),
      fillsFor: (answers) => fillsOf(content, answers),
    }
  const isAlone = (name: string) => direct.controls.filter((one) => one.name === name).length === 1
  return {
    action: direct.action,
    trap: direct.trap,
    fillsFor: (answers) =>
      fillsOf(content, answers).flatMap(({ name, value }) => {
        const control = direct.controls.find((one) => one.control === name)
        // One of several boxes of the same name cannot be told from the others by it.
        if (control === undefined || (value === null && !isAlone(control.name))) return []
        return [{ name: control.name, value: value === null ? null : (control.values?.[value] ?? value) }]
      }),
  }
}
