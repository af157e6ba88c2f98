import type { Look } from '#core/look'

/** What only a real rendering can tell. Taken by the workshop at every width that the form's spots have. */
export interface Measures {
  /** Places whose words are wider than their room, at the narrowest width where they are. */
  overflows: readonly { selector: string; width: number; words: string }[]
  /**
   * What is really behind something that stands over a picture, `#rrggbb`: the colours on which a text could
   * read worst, or, for a control as a part of the form, the one around it on the whole.
   */
  behind: readonly { selector: string; width: number; is: 'text' | 'part'; colours: readonly string[] }[]
  /** Whether some text stands on the form's own ground, and not over its picture. */
  isOnGround: boolean
  /** Of a landing page, in a window of a size in CSS pixels: how far down the first field ends. Missing in measures from before. */
  firstField?: readonly { width: number; height: number; end: number }[]
  /** What the owner's own CSS does to the rendering; null where there is none. */
  drawn: Drawn | null
}

/** A common desk and a common phone. */
export const firstScreens = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
] as const

export const nothingMeasured: Measures = { overflows: [], behind: [], isOnGround: true, drawn: null }

/**
 * Only what is drawn otherwise than without the owner's own CSS. What is so only in a state names it in its
 * place: `.askbox-button:hover`.
 */
export interface Drawn {
  /** The look it was drawn with: of any other, these tell nothing. */
  look: Look
  texts: readonly DrawnText[]
  edges: readonly DrawnEdge[]
  /** Out of sight: a label or an error whose control is in sight, a control that has to be answered, the button. */
  hidden: readonly { selector: string; width: number; is: 'label' | 'error' | 'control' | 'button' }[]
}

export interface DrawnText {
  /** Selector of the elements that have this text. */
  selector: string
  /** Width of the place on the page, in CSS pixels. */
  width: number
  /** `#rrggbb`. */
  colour: string
  /** 0 to 1. */
  opacity: number
  /** Every colour that is behind it, `#rrggbb`, and for each what the text's own is laid over with its opacity. */
  grounds: readonly string[]
  under: readonly string[]
  /** At least 24 px, or bold from 18.66 px: WCAG 2.2, "large scale". */
  isLarge: boolean
}

/** What sets a control off from its surroundings; null for an edge or a fill that is not there. */
export interface DrawnEdge {
  selector: string
  width: number
  edge: string | null
  fill: string | null
  grounds: readonly string[]
}
