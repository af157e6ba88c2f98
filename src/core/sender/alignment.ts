import { getDomain } from 'tldts'

/** RFC 7489, section 3.2: the registrable domain by the Public Suffix List; a public suffix itself stays as it is. */
export function organizationalDomain(domain: string): string {
  return getDomain(domain, { allowPrivateDomains: true }) ?? domain
}

/** Identifier alignment, RFC 7489, section 3.1: relaxed compares organizational domains, strict whole names. */
export function isAligned(domain: string, senderDomain: string, isStrict = false): boolean {
  if (domain === senderDomain) return true
  return !isStrict && organizationalDomain(domain) === organizationalDomain(senderDomain)
}
