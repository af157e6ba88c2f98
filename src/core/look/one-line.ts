import type { Look } from './look'

/** Why fields do not stand in one line although they should, and the look in which they do. */
export interface LineObstacle {
  why: string
  mended: Look
}

/** A field's basis in a line is 14 em of 16 px; from it on, a row is broken. */
const FIELD_PX = 14 * 16
/** Room for a button: its words at 0.55 em a letter, and 1.25 em at either side (from memory, for the fonts shipped). */
const buttonPx = (words: string) => words.length * 0.55 * 16 + 2 * 1.25 * 16
const MOST_WIDTH_PX = 1280

/**
 * What keeps fields and button from standing in one line, where that is chosen; null where nothing of the look does. A
 * narrow place on a page is no fault of the look.
 *
 * @param fields how many of them stand in the row
 */
export function lineObstacle(look: Look, fields: number, button: string): LineObstacle | null {
  if (look.arrangement !== 'line') return null
  const needed = Math.ceil(
    fields * FIELD_PX + fields * look.space.gap + buttonPx(button) + 2 * (look.space.inside + look.border.width),
  )
  const isNarrow = look.space.width < needed && needed <= MOST_WIDTH_PX
  const hasOwnRow = look.button.width === 'row'
  if (!isNarrow && !hasOwnRow) return null
  const reasons = [
    hasOwnRow && 'the button has a row of its own',
    isNarrow && `the form is at most ${look.space.width} px wide, and one line needs about ${needed}`,
  ].filter((reason) => reason !== false)
  return {
    why: `Not in one line: ${reasons.join(', and ')}.`,
    mended: {
      ...look,
      space: { ...look.space, width: isNarrow ? Math.ceil(needed / 10) * 10 : look.space.width },
      button: { ...look.button, width: 'text' },
    },
  }
}
