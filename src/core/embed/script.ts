import { type FormContent, isBox } from '#core/form'
import type { SpotId } from '#core/ids'
import { element, PLACE_STYLE, toHtml } from '#core/render'
import { heightByWidth, type PlaceHeights } from './heights'
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
            style: `${cell};display:block;width:1px;height:0;margin:0;padding:${roomFor(heights, content)} 0 0;font-size:max(1em,14px);animation:askbox-room 1ms ${ROOM_SECONDS}s forwards!important`,
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

/** In `em`, because forms grow with the page's text. */
function roomFor(heights: PlaceHeights, content: FormContent): string {
  const growth = rowsOf(content) * FIELD_GROWTH
  return `calc(${heightByWidth(heights, em, '100%')} + max(0px,(16px - 1em)*${growth}))`
}
const em = (px: number) => `${Number((px / 16).toFixed(3))}em`

/** Text in fields is 16 px at least, however small the page's is; with the space around it, a field grows by so much of what is missing. */
const FIELD_GROWTH = 3

/** How many rows of fields and button there are where all stand below each other. */
function rowsOf({ fields }: FormContent): number {
  return fields.filter((field) => field.kind !== 'hidden' && !isBox(field)).length + 1
}
