import { isolated } from '#core/text'

/** Longer than nearly anybody's first name, and too short for a sentence with a bait in it. */
const LONGEST_NAME = 40

/**
 * What somebody typed as a name, for greeting them by it; empty where it is none. The mail goes to whichever address was
 * typed beside it, so a stranger could write to anybody through it: what has digits, looks like an address or goes on
 * for long is no name, and the message greets without one.
 */
export function greetingName(typed: string): string {
  const name = typed.trim()
  // Wide and other shapes of the same characters count as the plain ones.
  const plain = name.normalize('NFKC')
  const isName =
    plain.length <= LONGEST_NAME &&
    // Nor anything that has what follows read backwards.
    // Nor an encoded word, which readers decode wherever it stands (RFC 2047).
    !/[\p{Nd}\p{Cc}@/\\<>=?∕⁄\u202a-\u202e\u2066-\u2069]/u.test(plain) &&
    // A dot between letters, more than an initial's: a domain.
    !/[\p{L}\p{M}][.。][\p{L}\p{M}]{2}/u.test(plain) &&
    !/:\S/.test(plain)
  return isName ? name : ''
}

/** As narrow as a space can be (U+200A): a space of any kind ends what a mail program takes for an address. */
const HAIR_SPACE = '\u200a'

/** Text that somebody typed, broken up so that no mail program makes a link of anything in it, and that turns nothing beside it round. */
export function withoutLinks(typed: string): string {
  return isolated(typed.replaceAll(/(?<=\S)[.。．｡:/\\@＠](?=\S)/gu, `$&${HAIR_SPACE}`))
}
