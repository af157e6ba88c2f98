import { parseEmail } from '#core/email'
import type { Field, FieldKey } from '#core/form'

/** What came in, by field name, each a single text. */
export type PostedValues = Record<string, string>

export interface FieldError {
  field: FieldKey
  code: 'missing' | 'invalid' | 'too-long'
  /** Plain words for the visitor. */
  message: string
}

/** Longest answer to a one-line question, in UTF-16 code units as HTML's `maxlength` counts. */
export const MAX_LINE_LENGTH = 200

/** Everything that is wrong with the answers, in the order of the fields. Empty when they can be taken. */
export function fieldErrors(fields: readonly Field[], values: PostedValues): FieldError[] {
  return fields.flatMap((field) => fieldError(field, values[field.key] ?? '') ?? [])
}

function fieldError(field: Field, value: string): FieldError | null {
  const name = field.label.trim() || field.key
  if (field.kind === 'email') {
    const parsed = parseEmail(value)
    return parsed.ok ? null : { field: field.key, ...parsed.problem }
  }
  if (value.trim() === '') return field.required ? { field: field.key, code: 'missing', message: `“${name}” needs an answer.` } : null
  if (value.length > MAX_LINE_LENGTH) {
    return { field: field.key, code: 'too-long', message: `“${name}” takes at most ${MAX_LINE_LENGTH} characters.` }
  }
  return null
}
