import { type EmailAddress, readEmail } from './address'

/** Marks that are not seen: zero-width space, joiners, word joiner, soft hyphen, direction marks, byte order mark. */
const UNSEEN = /[\u00ad\u200b-\u200f\u2060\ufeff]/g
/** Letters, digits and signs of full width, which Japanese keyboards type: Unicode's Halfwidth and Fullwidth Forms. */
const FULL_WIDTH = /[\uff01-\uff5e]/g
/** As much as is looked at. */
const LONGEST = 1_000

/**
 * What somebody typed or pasted as an address, without what is plainly a slip of the hand: full-width letters, a dot or
 * comma behind, what is not seen, what came along when a link or a line of a mail was copied.
 */
export function tidyAddress(typed: string): string {
  if (typed.length > LONGEST) return typed
  const narrow = typed
    .replace(UNSEEN, '')
    .replace(FULL_WIDTH, (sign) => String.fromCharCode(sign.charCodeAt(0) - 0xfee0))
    .trim()
  const open = narrow.endsWith('>') ? narrow.lastIndexOf('<') : -1
  const address = (open < 0 ? narrow : narrow.slice(open + 1, -1)).trim().replace(/^mailto:/i, '')
  let end = address.length
  while (end > 0 && '.,;'.includes(address[end - 1]!)) end -= 1
  return address.slice(0, end)
}

/**
 * An address that a visitor typed. Beyond the standard's own definition, its domain has a dot, as those that the internet
 * delivers mail to do, and no punctuation; `not-ascii` is one that is right but for letters before the `@` that few mail
 * servers take (RFC 6531).
 */
export function readTyped(input: string): EmailAddress | 'not-ascii' | Extract<ReturnType<typeof readEmail>, string> {
  const typed = tidyAddress(input)
  const read = readEmail(typed)
  const at = typed.lastIndexOf('@')
  const domain = typed.slice(at + 1)
  if (typeof read !== 'string') return /[^.]\.[^.]/.test(domain) && !/[^\P{P}.。-]/u.test(domain) ? read : 'no-domain'
  const isOtherwiseRight = read === 'invalid' && /[^\0-\x7f]/.test(typed.slice(0, at))
  return isOtherwiseRight && typeof readEmail(`a@${domain}`) !== 'string' ? 'not-ascii' : read
}
