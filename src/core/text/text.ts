import { z } from 'zod'

/** Longest text anyone may keep in one place, in UTF-16 code units: far above what a form needs, far below what hurts. */
export const MAX_TEXT_LENGTH = 20_000

const MAYBE_REFUSED = /[\0\ud800-\udfff]/

/**
 * Names the first character that is refused everywhere, or null. NUL is cut off by some databases and
 * lone surrogates cannot be written as UTF-8, so both would silently change what somebody typed.
 */
export function refusedCharacter(text: string): 'NUL' | 'lone surrogate' | null {
  // Most texts have neither: half of a pair is looked for where there is any.
  if (!MAYBE_REFUSED.test(text)) return null
  if (text.includes('\0')) return 'NUL'
  return /\p{Surrogate}/u.test(text) ? 'lone surrogate' : null
}

/**
 * Longest text in one column of a member, in UTF-16 code units: more than a sign-up's body can bring, because several
 * answers may fill one column.
 */
export const MAX_VALUE_LENGTH = 100_000

/**
 * A text from outside as it can be kept: without NUL and lone surrogates, and cut to a length without cutting a
 * character of two code units in half.
 */
export function keepableText(text: string, longest: number): string {
  const cut = text.slice(0, longest)
  const whole = /[\ud800-\udbff]$/.test(cut) && cut.length < text.length ? cut.slice(0, -1) : cut
  return refusedCharacter(whole) === null ? whole : whole.replaceAll('\0', '').replace(/\p{Surrogate}/gu, '')
}

/** Any text, several lines allowed. It is text and nothing else until `core/render` or Vue escapes it. */
export const harmlessText = textUpTo(MAX_TEXT_LENGTH)

/** What one column keeps of a member. */
export const columnValue = textUpTo(MAX_VALUE_LENGTH)

function textUpTo(longest: number) {
  return z
    .string()
    .max(longest)
    .refine(
      (text) => refusedCharacter(text) === null,
      'holds a character that cannot be kept (NUL or half of a surrogate pair)',
    )
}

/** One line that names something: not empty, without line breaks, so that it can never start a header of its own. */
export const plainLine = harmlessText
  .refine((text) => text.trim() !== '', 'must not be empty')
  .refine((text) => !/[\r\n]/.test(text), 'must be one line')
  .refine((text) => text.length <= 200, 'must have at most 200 characters')
