import { css } from './css'

export type Rule = [selector: string, declarations: string]

/** Properties that dark themes set with `!important` on every element, which hides words on the form's own ground. */
export const INSISTENT = /^(?:color|background[\w-]*|-webkit-text-fill-color)$/

/** Adds `!important` to colours and grounds. */
export function insistent(declarations: string): string {
  return declarations.replace(/(?<=^|;)([\w-]+):([^;]+)/g, (whole, property: string, value: string) =>
    INSISTENT.test(property) && !value.endsWith('!important') ? `${property}:${value}!important` : whole,
  )
}

/** Each of several selectors, separated by commas, within the form. An empty one is the form itself. */
export function selectorIn(scope: string, selectors: string): string {
  return selectors
    .split(',')
    .map((selector) => (selector === '' ? scope : `${scope} ${selector}`))
    .join()
}

/** For screen readers alone. */
export const HEARD_ONLY = css`
  position: absolute;
  width: 1px;
  height: 1px;
  overflow: hidden;
  clip-path: inset(50%);
  white-space: nowrap;
`

/** CSS pixels as `em`, so that all of it grows with the page's text. */
export function em(px: number): string {
  return px === 0 ? '0' : `${Number((px / 16).toFixed(3))}em`
}
