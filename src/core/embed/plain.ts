import { type PlacedForm, renderForm, toHtml } from '#core/render'

/** The plain code: a complete form with its styles, to paste where the form should stand. Ends with a line break. */
export function plainCode(placed: PlacedForm): string {
  return `${toHtml(renderForm(placed))}\n`
}
