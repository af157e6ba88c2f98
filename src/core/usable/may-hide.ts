/*
 * Which declarations of CSS can take what they apply to out of sight or reach. What a property outside of these lists does is
 * not known here, so it may.
 */

/** Properties that change how something looks or where its neighbours stand, and hide nothing, whatever their value. */
const HARMLESS = patternOf(`
  accent-color align-.+ anchor-.+ animation-(?!name).+ appearance aspect-ratio backdrop-filter backface-visibility
  background.* baseline-.+ border.* box-.+ break-.+ caption-side caret.* clear clip-rule color-.+
  column-(?!count|width).+ container-name corner.* counter-.+ cursor direction dominant-baseline dynamic-range-limit
  empty-cells field-sizing fill.* flex.* float font-(?!size).+ forced-color-adjust gap grid.* hanging-.+ hyphen.+
  image-.+ ime-mode initial-letter.* interest-delay.* isolation justify-.+ line-break line-height-step list-style.*
  marker.* mask-border.* math-.+ min-.+ object-.+ order orphans outline.* overflow-.+ overflow overlay overscroll-.+
  padding-(?:top|bottom|block.*) page.* paint-order perspective.* place-.+ position-.+ print-color-adjust quotes reading-.+ resize row-gap
  row-rule.* rule.* ruby-.+ scroll.+ shape-.+ speak.* stroke.* tab-size table-layout text-(?!indent|fill).+
  timeline-.+ transform-.+ transition.* unicode-bidi user-.+ vector-effect vertical-align view-.+ white-space.* widows
  will-change word-(?:break|wrap) writing-mode
`)
/** Of drawings, of printing, of speech, and such as no browser knows any more. */
const ELSEWHERE = patternOf(`
  [cr]?[xy] r d stop-.+ flood-.+ lighting-color glyph-.+ kerning alignment-.+ cue.* pause.* rest.* voice-.+ azimuth
  elevation bookmark.* string-set footnote-.+ size tap-highlight-color osx-font-smoothing margin-trim margin-break
  text-size-adjust block-step.*
`)

/** Names of properties, parts of regular expressions, with spaces between. */
function patternOf(names: string): RegExp {
  return new RegExp(`^(?:${names.trim().split(/\s+/).join('|')})$`)
}

const DISPLAYS =
  /^(?:inline|block|flow-root|inline-block|flex|inline-flex|grid|inline-grid|table|inline-table|table-(?:row|cell|row-group|header-group|footer-group|caption)|list-item|contents|initial|unset|revert|revert-layer|inherit|(?:block|inline) (?:flow|flow-root|flex|grid)|-webkit-box|-webkit-flex)$/
/** CSS pixels; shares of a window or a box, in percent. */
const FAR = { px: 100, share: 40 }
const PLAIN = /^(?:none|normal|auto|0(?:px)?|initial|unset|revert|revert-layer|inherit)$/

/** @param value as written, in small letters, without `!important` */
export function mayHide(property: string, value: string, isImportant = false): boolean {
  const name = property.replace(/^-(?:webkit|moz|ms|o)-/, '')
  if (property.startsWith('--') || HARMLESS.test(name) || ELSEWHERE.test(name)) return false
  const isColour = name === 'color' || name === 'text-fill-color'
  if (value.includes('var(') || value.includes('attr(')) return !isColour || isImportant
  const number = Number.parseFloat(value)
  const amounts = [...value.matchAll(/(-?(?:\d+(?:\.\d+)?|\.\d+))(px|em|rem|%|vw|vh|deg|turn)?/g)].map(
    ([, amount, unit]) => ({ amount: Number(amount), unit: unit ?? 'px' }),
  )
  /** Whether something is moved by more than a little. */
  const isFar = () =>
    /calc|anchor|env|min\(|max\(|clamp/.test(value) ||
    amounts.some(({ amount, unit }) =>
      ['%', 'vw', 'vh'].includes(unit)
        ? Math.abs(amount) >= FAR.share
        : Math.abs(amount) * (/em$/.test(unit) ? 16 : 1) >= FAR.px,
    )
  // A frame or a field that gives way is nothing at its least width.
  const isSmall = () => /min-content/.test(value) || (/^-?[\d.]/.test(value) && number < 2)
  switch (name) {
    case 'display':
      return !DISPLAYS.test(value)
    case 'visibility':
      return value === 'hidden' || value === 'collapse'
    case 'opacity':
      return (value.endsWith('%') ? number / 100 : number) < 0.3
    case 'content-visibility':
      return value === 'hidden'
    case 'pointer-events':
    case 'touch-action':
      return value === 'none'
    case 'height':
    case 'max-height':
    case 'width':
    case 'max-width':
    case 'block-size':
    case 'inline-size':
    case 'max-block-size':
    case 'max-inline-size':
      return isSmall()
    case 'font-size':
      return /^[\d.]/.test(value) && (number < 0.4 || (value.endsWith('px') && number < 5) || isFar())
    case 'font':
      return /(?:^|\s)[0-4](?:\.\d+)?px/.test(value)
    case 'line-height':
      return /^[\d.]/.test(value) && number < 0.6
    case 'zoom':
      return /^[\d.]/.test(value) && ((value.endsWith('%') ? number / 100 : number) < 0.5 || number > 2)
    case 'letter-spacing':
    case 'word-spacing':
    case 'text-indent':
      return isFar()
    case 'color':
    case 'text-fill-color':
      return (
        isImportant ||
        value === 'transparent' ||
        /,\s*0?\.[0-4]\d*\)|\/\s*0?\.?[0-4]\d*%?\)|^#(?:\w{3}[0-4]|\w{6}[0-4]\w)$/.test(value)
      )
    case 'clip':
      return value !== 'auto'
    case 'filter':
      return /opacity|blur|brightness|contrast|url|drop-shadow|invert/.test(value)
    case 'left':
    case 'right':
    case 'top':
    case 'bottom':
      return isFar()
    case 'position':
      return value === 'fixed'
    case 'rotate':
      return amounts.length > 1 || /[xyz]/.test(value) || Math.abs(number) > 10
    case 'scale':
      return amounts.some(({ amount }) => amount < 0.5 || amount > 2)
    case 'translate':
      return isFar()
    case 'transform':
      return (
        isFar() ||
        /matrix|3d|perspective|skew|rotate[xy]|[xyz]\(/.test(value) ||
        [...value.matchAll(/scale\(\s*(-?[\d.]+)/g)].some(([, by]) => Number(by) < 0.5 || Number(by) > 2)
      )
    // Many columns are too narrow for anything.
    case 'columns':
    case 'column-count':
      return amounts.some(({ amount }) => amount > 6)
    case 'z-index':
      return number < 0
    case 'contain':
    case 'container-type':
    case 'container':
      return /(?<!inline-)size|strict|layout|content/.test(value)
    default:
      // Margins and insets of any side, padding beside; masks, clips, paths, blending, and what is not known here.
      return /^(?:margin|inset|padding)/.test(name) ? isFar() : !PLAIN.test(value)
  }
}
