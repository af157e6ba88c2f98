import { type PlacedForm, renderForm, toHtml } from '#core/render'

/** The plain code: a complete form with its styles, to paste where the form should stand. Ends with a line break. */
export function plainCode(placed: PlacedForm): string {
  const html = toHtml(renderForm(placed)).replace(
    '>',
    '>\n<!-- Words may be changed by hand, and the colours on the lines that begin with --askbox. -->',
  )
  // On pages written in Markdown, a blank line would end the code.
  return `${html.replace(/\n(?=[ \t]*\n)/g, '&#10;')}\n`
}
