import type { FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import { element, toHtml } from '#core/render'
import { pageAddress, wordsOf } from './link'

/** The one line that a site needs, however many forms stand on it. Ends with a line break. */
export function sharedLine(receiver: string): string {
  return `${toHtml(element('script', { async: true, src: `${receiver}/askbox.js` }))}\n`
}

/** Shows a spot's form over a page, by the spot's rules; for the head of every page or of one. Works without the shared line, too. */
export function popUpPart(receiver: string, spot: SpotId): string {
  return `<!-- Pop-up with a form. What it says and when it appears is set in the workshop. -->\n${toHtml(
    element('script', { async: true, src: `${receiver}/askbox.js#pop-up-${spot}` }),
  )}\n`
}

/** How high a form is at two widths of its place, in CSS pixels. */
export interface PlaceHeights {
  narrow: { width: number; height: number }
  wide: { width: number; height: number }
}

/**
 * The place part: a link to the spot's page, of which the shared line's script makes the form. Where no script runs, the
 * link stands there. Ends with a line break.
 */
export function placePart(content: FormContent, receiver: string, spot: SpotId, heights: PlaceHeights | null): string {
  const link = element('a', { href: `${pageAddress(receiver, spot)}#askbox` }, wordsOf(content))
  const html = toHtml(
    element(
      'div',
      { style: 'width:100%;min-width:0' },
      link,
      heights !== null && element('br'),
      ...(heights === null ? [] : spacers(heights)).map(([width, height]) =>
        element('canvas', { width: String(width), height: String(height), 'aria-hidden': 'true' }),
      ),
    ),
  )
  return `<!-- The form appears in the place of this link; its words may be changed. What comes after it keeps the room. -->\n${html}\n`
}

/**
 * The least that a line of text adds below something that stands in it, and the least height of the link's own line, at
 * 16 px of text: where a site's lines are higher, a little too much room is kept, which moves nothing (see the runtime).
 */
const LINE_PX = 4
const LINK_PX = 18

/**
 * Empty boxes that take as much room as the form will, sized by attributes alone, because pages' policies may forbid
 * styles: side by side where the place is wide, as high as the form is there; below each other where it is narrow, together
 * as high as it is then.
 */
function spacers({ narrow, wide }: PlaceHeights): [width: number, height: number][] {
  const first = Math.max(1, wide.height - LINK_PX - LINE_PX)
  // In the narrow place no two stand side by side, and none sticks out.
  const width = Math.floor(narrow.width / 2) + 1
  const count = Math.floor(wide.width / width)
  if (count < 2 || narrow.height <= wide.height) return [[1, first]]
  const rest = Math.max(1, Math.round((narrow.height - wide.height) / (count - 1)) - LINE_PX)
  return [[width, first], ...Array.from({ length: count - 1 }, (): [number, number] => [width, rest])]
}
