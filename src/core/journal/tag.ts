import { harmlessText } from '#core/text'

/** Longest tag, in UTF-16 code units: longer ones are sentences. */
export const MAX_TAG_LENGTH = 100
/** A word or a few that an owner, or a form, gives somebody. */
export const tagSchema = harmlessText
  .min(1)
  .max(MAX_TAG_LENGTH)
  .regex(/^\S(?:[^\r\n]*\S)?$/, 'must be one line, without spaces around it')
