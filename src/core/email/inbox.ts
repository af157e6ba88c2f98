import { POPULAR_DOMAINS } from '@zootools/email-spell-checker'

/**
 * Domains under which one inbox is reached by any spelling with dots, and the name that they share. Source: the
 * provider's own help page (“Dots don't matter in Gmail addresses”), from memory; `normalizeEmail` of the validator
 * package has the same table, and the test holds this against it.
 */
const WITHOUT_DOTS: Readonly<Record<string, string>> = { 'gmail.com': 'gmail.com', 'googlemail.com': 'gmail.com' }
/** Domains that part the sub-address by a hyphen; source as above, `normalizeEmail`. */
const HYPHENATED = /^(?:yahoo\.(?:com|co\.uk|de|fr|it|es|ca|in)|ymail\.com|rocketmail\.com)$/

/**
 * The inbox that an address leads to, as far as its spelling tells, for counting what is sent there: several spellings
 * that arrive in one place count as one. Sub-addresses (RFC 5233; `+` is what servers part them by unless told
 * otherwise) are taken off. Never for sending to, and never for telling people apart: two may share an inbox.
 *
 * @param compared an address in the shape in which addresses are compared
 */
export function inboxOf(compared: string): string {
  const at = compared.lastIndexOf('@')
  const domain = compared.slice(at + 1)
  const local = compared.slice(0, at)
  const plain = local.split('+', 1)[0] || local
  if (Object.hasOwn(WITHOUT_DOTS, domain)) return `${plain.replaceAll('.', '') || plain}@${WITHOUT_DOTS[domain]}`
  return `${(HYPHENATED.test(domain) && plain.split('-', 1)[0]) || plain}@${domain}`
}

const providers = new Set([
  ...POPULAR_DOMAINS,
  ...Object.keys(WITHOUT_DOTS),
  'yahoo.com',
  'hotmail.com',
  'outlook.com',
  'live.com',
  'icloud.com',
])

/** Whether so many strangers to each other have addresses of a domain that their number tells nothing. */
export function isMailProvider(domain: string): boolean {
  return providers.has(domain)
}
