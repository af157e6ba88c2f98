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
  if (email.length > 254) return null
  const typed = email.trim().toLowerCase()
  const at = typed.indexOf('@')
  const [local, domain] = [typed.slice(0, Math.max(0, at)), typed.slice(at + 1)]
  if (local === '' || domain === '' || domain.includes('@')) return null
  const meant = meantDomain(domain)
  return meant === null ? null : `${local}@${meant}`
}

/** Of a file with a hundred thousand addresses, most have one of a few domains. */
const MOST_REMEMBERED = 10_000
const remembered = new Map<string, string | null>()

function meantDomain(domain: string): string | null {
  const before = remembered.get(domain)
  if (before !== undefined) return before
  if (remembered.size >= MOST_REMEMBERED) remembered.clear()
  const meant = findMeantDomain(domain)
  remembered.set(domain, meant)
  return meant
}

function findMeantDomain(domain: string): string | null {
  if (KNOWN.includes(domain)) return null
  const meant = run({ email: `x@${domain}`, domains: GREAT, secondLevelDomains: [], topLevelDomains: [] })
  if (meant === undefined) return null
  // A great provider under another country is its own: gmx.at beside gmx.com.
  const [name, ...end] = domain.split('.')
  const isOfCountry = end.at(-1)?.length === 2 && !SLIPS.includes(end.join('.'))
  return meant.domain.startsWith(`${name}.`) && isOfCountry ? null : meant.domain
}
