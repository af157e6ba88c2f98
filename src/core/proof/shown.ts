import type { FieldKey } from '#core/form'

/** What whoever sent a form was shown. */
export interface Shown {
  /** 0 for an answer in place, which has none. */
  status: number
  /** Where it was read, after redirects; the page's own for an answer in place. */
  address: string
  heading: string
  message: string
  /** By key of the field. */
  errors: Record<FieldKey, string>
  /** What stands in the controls, by name, where the form is shown again. */
  kept: Record<string, string>
  /** What a page of the owner's own is, where it is plainly not the page that was meant. */
  looks?: 'empty' | 'not-found' | 'sign-in'
  /** Whether a step of ours was read from which the browser let nobody go on. */
  isHeldBack?: boolean
  /** Where a link to a gift leads that stands there; missing for none. */
  gift?: string
}

export function squeezed(text: string): string {
  return text.replace(/\s+/g, ' ').trim()
}
