import type { Look } from './look'

/** Why fields do not stand in one line although they should, and the look in which they do. */
export interface LineObstacle {
  why: string
  /** Null where no look helps: `why` then says what does. */
  mended: Look | null
}

/** Of several fields, each gives way down to here: 9 em. */
const LEAST_FIELD_PX = 9 * 16
/** A field's basis in a line is 14 em of 16 px; from it on, a row is broken. */
const FIELD_PX = 14 * 16
/** The only field gives way to the button down to here. */
const ONLY_FIELD_PX = 11 * 16
/** Room for a button: its words at 0.55 em a letter, and 1.25 em at either side (from memory, for the fonts shipped). */
const buttonPx = (words: string) => words.length * 0.55 * 16 + 2 * 1.25 * 16
const MOST_WIDTH_PX = 1280

/** What a form in one line has to hold, and where. */
export interface LineRoom {
  /** How many fields stand in the row. */
  fields: number
  /** The button's words. */
  button: string
  /** The share of the form's width that words or a picture beside them leave; 1 where nothing stands beside. */
  share?: number
  /** The widest place that it sits in, in CSS pixels; missing where it sits nowhere yet. */
  place?: { name: string; width: number } | undefined
}

/** The least width that one line takes, in CSS pixels, with each field as narrow as it goes; null where it fits into a form. */
export function lineTooWide(look: Look, { fields, button, share = 1 }: LineRoom): number | null {
  const row = fields * (LEAST_FIELD_PX + look.space.gap) + buttonPx(button)
  const needed = Math.ceil(row / share + 2 * (look.space.inside + look.border.width))
  return look.arrangement === 'line' && needed > MOST_WIDTH_PX ? needed : null
}

/**
 * What keeps fields and button from standing in one line, where that is chosen; null where nothing does.
 */
export function lineObstacle(look: Look, { fields, button, share = 1, place }: LineRoom): LineObstacle | null {
  if (look.arrangement !== 'line') return null
  const row = fields * ((fields === 1 ? ONLY_FIELD_PX : FIELD_PX) + look.space.gap) + buttonPx(button)
  const needed = Math.ceil(row / share + 2 * (look.space.inside + look.border.width))
  const less = [fields > 1 && 'ask for less', share < 1 && 'take away what stands beside the fields'].filter(
    (help) => help !== false,
  )
  if (needed > MOST_WIDTH_PX)
    return {
      why: `Not in one line: it needs about ${needed} px, and forms are at most ${MOST_WIDTH_PX} px wide. What helps: ${less.join(', or ')}.`,
      mended: null,
    }
  if (place !== undefined && place.width < needed)
    return {
      why: `Not in one line: where it sits (${place.name}) about ${place.width} px are free, and one line needs about ${needed}. What helps: ${[...less, 'a wider place'].join(', or ')}.`,
      mended: null,
    }
  const isNarrow = look.space.width < needed
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
