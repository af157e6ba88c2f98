import { SHIPPED_FONT_PATH } from '#core/look'
import { css } from './css'

/**
 * The font that ships with Ask Box.
 *
 * @param receiver where it is fetched from; empty on a page of the receiver's own
 * @param display `swap` shows it whenever it comes, `optional` only where it is there at once
 */
export function fontFace(receiver: string, display: 'swap' | 'optional'): string {
  return css`
    @font-face {
      font-family: 'Ask Box Sans';
      src: url(${receiver}${SHIPPED_FONT_PATH}) format('woff2');
      font-weight: 200 900;
      font-display: ${display};
    }
  `
}
