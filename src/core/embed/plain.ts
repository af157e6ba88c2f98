import { element, PLACE_STYLE, type PlacedForm, renderForm, toHtml } from '#core/render'

/**
 * The plain code: a complete form with its styles, to paste where the form should stand. Ends with a line break.
 *
 * The element around it takes the place that the site gives: the form itself takes back what a site says of it, its place
 * in a grid or a column that centres what is in it with the rest.
 */
export function plainCode(placed: PlacedForm): string {
  const html = toHtml(element('div', { style: PLACE_STYLE }, renderForm(placed))).replace(
    '>',
    '>\n<!-- Words may be changed by hand, and the colours on the lines that begin with --askbox. -->',
  )
  // On pages written in Markdown, a blank line would end the code.
  return `${html.replace(/\n(?=[ \t]*\n)/g, '&#10;')}\n`
}
