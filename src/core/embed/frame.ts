import { element, toHtml } from '#core/render'
import { heightByWidth, type PlaceHeights } from './heights'

/** CSS pixels; a width of null is that of the place. */
export interface FrameSize {
  width: number | null
  height: number
  /** How high it is to be by the width of its place; `height` holds where styles do not. */
  heights?: PlaceHeights
}

/** A frame that shows a spot's form: of a set size, or as high as the form needs where it stands. Ends with a line break. */
export function frameCode(address: string, title: string, { width, height, heights }: FrameSize): string {
  const byPlace = width === null && heights !== undefined
  const frame = element('iframe', {
    src: address,
    title,
    // HTML's attribute is a number of pixels.
    width: width === null ? undefined : String(width),
    height: String(height),
    loading: 'lazy',
    style: byPlace
      ? `display:block;width:100%;border:0;height:calc(${heightByWidth(heights, px, '100cqw')})`
      : width === null
        ? 'width:100%;border:0'
        : 'border:0;max-width:100%',
  })
  // Without the element around it, `cqw` is a share of the window: CSS Containment 3.
  return byPlace
    ? `${toHtml(element('div', { style: AROUND }, frame))}<!-- As high as the form needs where it stands. -->\n`
    : `${toHtml(frame)}<!-- Width and height may be changed by hand. -->\n`
}

const AROUND = 'width:100%;min-width:min(100%,15em);container-type:inline-size'
const px = (length: number) => `${length}px`
