export {
  colourSchema,
  fieldColours,
  followsPage,
  type Look,
  lookSchema,
  plainLook,
  type LookTextKey,
  lookTextKeys,
  usualTextSize,
} from './look'
export { isDark, luminance, mix } from './colour'
export {
  contrast,
  type Demand,
  LARGE_TEXT_CONTRAST,
  mended,
  PART_CONTRAST,
  TEXT_CONTRAST,
  worstContrast,
} from './contrast'
export { hexOf, type Oklch, oklchOf } from './oklch'
export { type FontKey, fontKeys, fontName, fontStack, nearestFont, SHIPPED_FONT_PATH } from './fonts'
export { type CustomRule, customRuleSchema, movesBoxes, withinForm } from './custom'
export { readSelector } from './selector'
export { coloursFrom, type Palette, paletteSchema, quietPalette, textOn } from './palette'
export { inManner, type Manner } from './manner'
export { lineObstacle, type LineObstacle, type LineRoom, lineTooWide } from './one-line'
