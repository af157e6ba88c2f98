import { domainToAscii } from './domain'
import {
  MAX_DOMAIN_OCTETS,
  MAX_INPUT_LENGTH,
  MAX_LOCAL_PART_OCTETS,
  MAX_PATH_OCTETS,
  VALID_EMAIL_ADDRESS,
} from './limits'

/** One address in the two shapes Ask Box keeps: what the person typed, and what decides who is who. */
export interface EmailAddress {
  /** As typed, surrounding white space removed. Shown to people. */
  typed: string
  /** Lower-cased, with the domain in ASCII. Two addresses are the same person on a list when these are equal. */
  compared: string
}

export interface EmailProblem {
  code: 'missing' | 'invalid' | 'too-long'
  message: string
}

export type ParsedEmail = { ok: true; email: EmailAddress } | { ok: false; problem: EmailProblem }

const problems = {
  missing: { code: 'missing', message: 'An email address is needed.' },
  'too-long': { code: 'too-long', message: 'This email address is longer than mail allows.' },
  'no-at-sign': { code: 'invalid', message: 'An email address needs an @ sign, as in name@example.org.' },
  'no-domain': { code: 'invalid', message: 'The part after the @ sign is not a valid domain name.' },
  invalid: { code: 'invalid', message: 'This is not a valid email address.' },
} satisfies Record<string, EmailProblem>

/**
 * Reads one email address the way a browser's `<input type=email>` does: surrounding white space is
 * stripped, an internationalized domain becomes ASCII (punycode), and the result has to match the
 * HTML standard's definition of a valid email address. The length limits of RFC 5321 apply on top.
 */
export function parseEmail(input: string): ParsedEmail {
  const read = readEmail(input)
  return typeof read === 'string' ? { ok: false, problem: problems[read] } : { ok: true, email: read }
}

/** The same for the visitors' script, which has words of its own: the address, or what is wrong with it. */
export function readEmail(input: string): EmailAddress | keyof typeof problems {
  // Before anything else looks at it: what follows takes time with the length.
  if (input.length > MAX_INPUT_LENGTH) return 'too-long'
  const typed = stripWhiteSpace(input)
  if (typed === '') return 'missing'

  const at = typed.lastIndexOf('@')
  if (at < 0) return 'no-at-sign'
  const localPart = typed.slice(0, at)
  if (typed.length - at - 1 > MAX_DOMAIN_OCTETS) return 'too-long'
  const domain = domainToAscii(typed.slice(at + 1))
  if (domain === null) return 'no-domain'

  const address = `${localPart}@${domain}`
  if (!VALID_EMAIL_ADDRESS.test(address)) return 'invalid'
  const isTooLong =
    localPart.length > MAX_LOCAL_PART_OCTETS ||
    domain.length > MAX_DOMAIN_OCTETS ||
    address.length > MAX_PATH_OCTETS - '<>'.length
  return isTooLong ? 'too-long' : { typed, compared: address.toLowerCase() }
}

const ASCII_WHITE_SPACE = '\t\n\f\r '

/** HTML's value sanitization for `type=email`: drop newlines, strip leading and trailing ASCII white space. */
function stripWhiteSpace(input: string): string {
  const line = input.replace(/[\n\r]/g, '')
  let [start, end] = [0, line.length]
  while (start < end && ASCII_WHITE_SPACE.includes(line[start]!)) start += 1
  while (end > start && ASCII_WHITE_SPACE.includes(line[end - 1]!)) end -= 1
  return line.slice(start, end)
}
