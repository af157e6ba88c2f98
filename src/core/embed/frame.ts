import { element, toHtml } from '#core/render'

/** CSS pixels; a width of null is that of the place. */
export interface FrameSize {
  width: number | null
  height: number
}

/** A frame that shows a spot's form, of a set size. One line, and a line break. */
export function frameCode(address: string, title: string, { width, height }: FrameSize): string {
  return `${toHtml(
    element('iframe', {
      src: address,
      title,
      // HTML's attribute is a number of pixels.
      width: width === null ? undefined : String(width),
      height: String(height),
      loading: 'lazy',
      style: width === null ? 'width:100%;border:0' : 'border:0;max-width:100%',
    }),
  )}<!-- Width and height may be changed by hand. -->\n`
}
