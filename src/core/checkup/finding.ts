import type { Station } from '#core/station'
import type { FormContent } from '#core/form'
import type { Column } from '#core/list'
import type { Language } from '#core/texts'

/** How much it matters: `stops` publishing, is a `fault` that visitors meet, or a `hint` worth a thought. */
export type Weight = 'stops' | 'fault' | 'hint'

/** What a look at a form found, with what to do about it. */
export interface Finding {
  station: Station
  code: string
  weight: Weight
  /** What is wrong, in one short sentence. */
  message: string
  /** Why it matters, and the published source of the rule; none for what speaks for itself. */
  reason?: string
  source?: string
  /** What it is about: a spot's id, a field's key, an answer's case. */
  about?: string
  /** Where it is in the picture, as a selector of the rendering. */
  selector?: string
  /** The change that puts it right, where one can be computed. */
  mend?: Mend
}

/** What speaks against publishing without forbidding it: faults that visitors meet, and sentences that are still the sample's. */
export const speaksAgainst = ({ weight, code }: Finding): boolean => weight === 'fault' || code === 'words-sample'

export interface Mend {
  /** What it does, as an undo step: "Darken the button’s text". */
  name: string
  apply(content: FormContent): FormContent
  /** The language that the list's mails get with it, as far as they are still ours. */
  mailLanguage?: Language
  /** What the form's list gets with it. */
  columns?: Column[]
}
