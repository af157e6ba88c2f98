import type { DefaultTreeAdapterTypes as Html } from 'parse5'
import type { FormContent } from '#core/form'
import type { PersonAnswers } from '#core/proof'
import { attribute, type FormOnPage, formsOn, isSubmitButton, type Touched, typeOf } from '#core/submission'

/** What is done to the controls of one name: a value typed or chosen, or a box ticked. The same in markup and in a browser. */
export interface Fill {
  name: string
  /** Typed; of a menu or of buttons, the one chosen. Null for a box that is ticked. */
  value: string | null
}

/** Somebody's answers, control by control. */
export function fillsOf({ fields }: Pick<FormContent, 'fields'>, answers: PersonAnswers): Fill[] {
  return fields.flatMap((field): Fill[] => {
    const answer = Object.hasOwn(answers, field.key) ? answers[field.key] : undefined
    if (answer === undefined) return []
    if ('text' in answer) return [{ name: field.key, value: answer.text }]
    if ('isTicked' in answer) return answer.isTicked ? [{ name: field.key, value: null }] : []
    if ('parts' in answer)
      return Object.entries(answer.parts).map(([part, value]) => ({ name: `${field.key}-${part}`, value }))
    return field.kind === 'choose-one'
      ? answer.choices.map((value) => ({ name: field.key, value }))
      : answer.choices.map((choice) => ({ name: `${field.key}--${choice}`, value: null }))
  })
}

/** Does it to the controls of a form as it stands on a page. `missing` are names that no control has. */
export function filledIn(
  { controls }: FormOnPage,
  fills: readonly Fill[],
): { touches: Map<Html.Element, Touched>; missing: string[] } {
  const touches = new Map<Html.Element, Touched>()
  const missing: string[] = []
  for (const { name, value } of fills) {
    const named = controls.filter((control) => attribute(control, 'name') === name)
    if (named.length === 0) missing.push(name)
    for (const control of named) {
      const type = typeOf(control)
      if (value === null) touches.set(control, { isChecked: true })
      else if (type === 'select') touches.set(control, { chosen: [value] })
      else if (type !== 'radio') touches.set(control, { value })
      else if (attribute(control, 'value') === value) touches.set(control, { isChecked: true })
    }
  }
  return { touches, missing }
}

/** The form of a spot on a page: the one that sends there, or the page's own around a button of ours. */
export function formWith(page: Html.ParentNode, action: string): FormOnPage | undefined {
  return formsWith(page, action)[0]
}

/** All of them, in tree order. */
export function formsWith(page: Html.ParentNode, action: string): FormOnPage[] {
  return formsOn(page).filter(
    ({ form, controls }) =>
      attribute(form, 'action') === action || controls.some((control) => attribute(control, 'formaction') === action),
  )
}

/** The button that a visitor presses: ours where it is known, else the form's default button (section 4.10.22.2). */
export function buttonOf({ controls }: FormOnPage, action: string): Html.Element | null {
  const buttons = controls.filter(isSubmitButton)
  return buttons.find((button) => attribute(button, 'formaction') === action) ?? buttons[0] ?? null
}
