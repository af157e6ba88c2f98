import { POPULAR_DOMAINS, run } from '@zootools/email-spell-checker'

/** What the package knows as names with many endings, by the ending that most have. */
const KNOWN = [...POPULAR_DOMAINS, 'yahoo.com', 'hotmail.com', 'outlook.com', 'live.com', 'mail.com']
/** Of a shorter domain, nearly every other short one looks like a slip. */
const LEAST_LENGTH = 'gmail.com'.length
const GREAT = KNOWN.filter(({ length }) => length >= LEAST_LENGTH)
/** Slips for `com`, though some are domains of countries. */
const SLIPS = ['co', 'cm', 'om', 'vom', 'con', 'comm']

/**
 * The address that somebody may have meant whose domain is nearly that of a mailbox which many people have; null when
 * there is nothing to ask. It only ever asks: small and new providers look like slips of great ones.
 */
export function meantAddress(email: string): string | null {
  const [local = '', domain = '', ...more] = email.trim().toLowerCase().split('@')
  if (local === '' || domain === '' || more.length > 0 || email.length > 254 || KNOWN.includes(domain)) return null
  const meant = run({ email: `x@${domain}`, domains: GREAT, secondLevelDomains: [], topLevelDomains: [] })
  if (meant === undefined) return null
  // A great provider under another country is its own: gmx.at beside gmx.com.
  const [name, ...end] = domain.split('.')
  const isOfCountry = end.at(-1)?.length === 2 && !SLIPS.includes(end.join('.'))
  return meant.domain.startsWith(`${name}.`) && isOfCountry ? null : `${local}@${meant.domain}`
}
