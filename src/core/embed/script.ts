import type { FormContent } from '#core/form'
import type { SpotId } from '#core/ids'
import { element, PLACE_STYLE, toHtml } from '#core/render'
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

/** How high a form is at some widths of its place, narrowest first, in CSS pixels where text is 16 px. */
export type PlaceHeights = readonly { width: number; height: number }[]

/**
 * The place part: a link to the spot's page, of which the shared line's script makes the form. Where no script comes, the
 * link stands there. Ends with a line break.
 *
 * The room for the form is kept by an empty drawing in the link's own grid cell, by a style where the page allows style
 * attributes, else by its height. It goes by itself after some seconds (SMIL, SVG 2), unless the script stops that.
 */
export function placePart(content: FormContent, receiver: string, spot: SpotId, heights: PlaceHeights | null): string {
  const cell = 'grid-area:1/1'
  const usual = heights?.find(({ width }) => width >= USUAL_WIDTH) ?? heights?.at(-1)
  const html = toHtml(
    element(
      'div',
      { style: `display:grid;${PLACE_STYLE}` },
      element('a', { href: `${pageAddress(receiver, spot)}#askbox`, style: cell }, wordsOf(content)),
      heights !== null &&
        element(
          'svg',
          {
            width: '1',
            height: String(Math.max(1, usual!.height - LINE_PX)),
            'aria-hidden': 'true',
            style: `${cell};display:block;width:1px;height:0;margin:0;padding:${roomFor(heights)} 0 0;font-size:max(1em,14px);animation:askbox-room 1ms ${ROOM_SECONDS}s forwards!important`,
          },
          // Whichever the page allows: with a style, it does not wait for a script that hangs.
          element('style', {}, '@keyframes askbox-room{to{padding:0}}'),
          element('set', { attributeName: 'display', to: 'none', begin: `${ROOM_SECONDS}s` }),
        ),
    ),
  )
  return `<!-- The form appears in the place of this link; its words may be changed. What comes after it keeps the room. -->\n${html}\n`
}

/** What a line of text adds below something that stands in it, in CSS pixels. */
const LINE_PX = 4
/** Of a text column: without styles there is one height for all widths. */
const USUAL_WIDTH = 640
/** How long the room is kept for a script that does not come. */
const ROOM_SECONDS = 5
/** What may be kept too much, in CSS pixels: the runtime leaves it below the form. */
const SPARE_PX = 28
/** How wide a step of the height is, in CSS pixels. */
const STEP_PX = 1

/**
 * The height as a CSS length that depends on the width of the place: linear between some of the widths, nowhere less than
 * was measured, and hardly anywhere more. In `em`, because forms grow with the page's text.
 */
function roomFor(heights: PlaceHeights): string {
  const [first, ...knots] = knotsOf(heights)
  if (knots.length === 0) return em(first!.height)
  let [{ width, height }, sum] = [first!, em(first!.height)]
  for (const knot of knots) {
    const rise = knot.height - height
    if (rise !== 0) {
      const slope = Number(Math.abs(rise / (knot.width - width)).toFixed(3))
      sum += ` ${rise > 0 ? '+' : '-'} clamp(0em,(100% - ${em(width)})*${slope},${em(Math.abs(rise))})`
    }
    ;({ width, height } = knot)
  }
  return `calc(${sum})`
}

const em = (px: number) => `${Number((px / 16).toFixed(3))}em`

/** As few points as a line through them needs, to be below no height and within `SPARE_PX` above each. */
function knotsOf(heights: PlaceHeights): { width: number; height: number }[] {
  const knots = [{ ...heights[0]! }]
  for (let from = 0; from < heights.length - 1;) {
    const start = knots.at(-1)!
    const ends = heights.flatMap((_, to) => (to > from ? (endAbove(start, heights.slice(from + 1, to + 1)) ?? []) : []))
    const end = ends.at(-1)
    if (end === undefined) {
      // Lower from here on; between two widths that were measured, it may still be as high as at the narrower one.
      const next = heights[++from]!
      knots.push({ width: next.width - STEP_PX, height: start.height }, { ...next })
    } else {
      knots.push(end)
      from = heights.findIndex(({ width }) => width === end.width)
    }
  }
  return knots
}

/** Where a level or rising line from `start` ends, above the heights and near them; null if none is. */
function endAbove(
  start: { width: number; height: number },
  heights: PlaceHeights,
): { width: number; height: number } | null {
  const { width, height } = heights.at(-1)!
  const end = { width, height: Math.max(start.height, height) }
  const isAbove = heights.every((one) => {
    const line = start.height + ((end.height - start.height) * (one.width - start.width)) / (width - start.width)
    return line >= one.height - 0.5 && line <= one.height + SPARE_PX
  })
  return isAbove ? end : null
}
