import type { FormId } from '#core/ids'

/**
 * Names that a program filling in forms takes for a question, but that no browser's autofill recognises
 * (none is or resembles a token of HTML's `autocomplete` attribute).
 */
export const PLAUSIBLE_NAMES: readonly string[] = [
  'remarks',
  'message_subject',
  'reference',
  'your_comment',
  'how_found',
  'question',
  'details',
  'note_to_us',
]

/** The name of the form's honeypot field: always the same for one form, different from form to form. */
export function honeypotName(form: FormId): string {
  let sum = 0
  for (const character of form) sum = (sum * 31 + character.charCodeAt(0)) % 65_521
  return PLAUSIBLE_NAMES[sum % PLAUSIBLE_NAMES.length] as string
}
