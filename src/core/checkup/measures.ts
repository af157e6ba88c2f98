/** What only a real rendering can tell. Taken by the workshop at every width that the form's spots have. */
export interface Measures {
  /** Places whose words are wider than their room, at the narrowest width where they are. */
  overflows: readonly { place: string; width: number; words: string }[]
  /** What is really behind a text that stands over a picture: the colours on which it could read worst, `#rrggbb`. */
  behind: readonly { place: string; width: number; colours: readonly string[] }[]
}
export const nothingMeasured: Measures = { overflows: [], behind: [] }
