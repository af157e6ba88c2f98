/**
 * The text of an SPF record, RFC 7208, sections 4.5, 4.6 and 12. Syntax only: what its names resolve to is another's work.
 * Macros are recognised here and expanded in `spf-macro`.
 */

export type SpfQualifier = '+' | '-' | '~' | '?'

/** A mechanism in the order of the record; `bits` are prefix lengths in bits. */
export type SpfMechanism = { qualifier: SpfQualifier } & (
  | { kind: 'all' }
  | { kind: 'include' | 'exists'; domain: string }
  | { kind: 'a' | 'mx'; domain: string | null; bits4: number; bits6: number }
  | { kind: 'ptr'; domain: string | null }
  | { kind: 'ip4' | 'ip6'; address: string; bits: number }
)

export interface SpfRecord {
  mechanisms: SpfMechanism[]
  /** Domain that is asked when no mechanism matches. Ignored beside `all` (section 6.1). */
  redirect: string | null
}

export type SpfReading = { ok: true; record: SpfRecord } | { ok: false; term: string }

/** Section 4.5: the version is a word of its own, so `v=spf10` is another record, and so is `v=spf1include:…`. */
export const isSpf = (text: string): boolean => /^v=spf1(?: |$)/i.test(text)

/** Names with a dot, or with a macro, whose last label is no number (section 7.1, `domain-end`). */
const DOMAIN = /^(?=.{1,253}$)(?:[!-$&-~]|%\{[slodiphcrtv]\d*r?[-.+,/_=]*\}|%[%_-])+$/i
const DOMAIN_END = /(?:\.(?!\d+\.?$)[a-z0-9](?:-*[a-z0-9])*\.?|%\{[^}]*\})$/i
const isDomainSpec = (text: string): boolean => DOMAIN.test(text) && DOMAIN_END.test(text)

/** Prefix length, without a leading zero. */
const LENGTH = String.raw`(?:0|[1-9]\d?\d?)`
/** An optional name and two optional prefix lengths. A `/` within a name, which the grammar allows, is not read. */
const DUAL = new RegExp(`^(?::(?<domain>[^/]*))?(?:/(?<four>${LENGTH}))?(?://(?<six>${LENGTH}))?$`)
const SINGLE = new RegExp(`^:(?<address>[^/]*)(?:/(?<bits>${LENGTH}))?$`)
const QUAD = /^(?:(?:25[0-5]|2[0-4]\d|1?\d?\d)(?:\.(?!$)|$)){4}$/

/**
 * Reads a record, `v=spf1` included.
 *
 * @returns the first term that no rule of section 12 allows; receivers end with “permerror” then (section 4.6)
 */
export function readSpf(text: string): SpfReading {
  const record: SpfRecord = { mechanisms: [], redirect: null }
  const modifiers = new Set<string>()
  for (const term of text.slice(6).split(' ').filter(Boolean)) {
    const modifier = /^([a-z][a-z0-9_.-]*)=(.*)$/i.exec(term)
    if (modifier !== null) {
      const name = modifier[1]!.toLowerCase()
      const value = modifier[2]!
      if (name === 'redirect' || name === 'exp') {
        // Section 6: each at most once.
        if (modifiers.has(name) || !isDomainSpec(value)) return { ok: false, term }
        modifiers.add(name)
        if (name === 'redirect') record.redirect = value
      }
      // Others are ignored (section 6).
      continue
    }
    const mechanism = readMechanism(term)
    if (mechanism === null) return { ok: false, term }
    record.mechanisms.push(mechanism)
  }
  return { ok: true, record }
}

function readMechanism(term: string): SpfMechanism | null {
  const parts = /^([-+~?]?)([a-z][a-z0-9]*)((?:[:/].*)?)$/i.exec(term)
  if (parts === null) return null
  const qualifier = (parts[1] || '+') as SpfQualifier
  const kind = parts[2]!.toLowerCase()
  const rest = parts[3]!
  switch (kind) {
    case 'all':
      return rest === '' ? { qualifier, kind } : null
    case 'include':
    case 'exists':
      return rest.startsWith(':') && isDomainSpec(rest.slice(1)) ? { qualifier, kind, domain: rest.slice(1) } : null
    case 'ptr':
      if (rest === '') return { qualifier, kind, domain: null }
      return rest.startsWith(':') && isDomainSpec(rest.slice(1)) ? { qualifier, kind, domain: rest.slice(1) } : null
    case 'a':
    case 'mx': {
      const { domain, four = '32', six = '128' } = DUAL.exec(rest)?.groups ?? { domain: '' }
      if (domain !== undefined && !isDomainSpec(domain)) return null
      const [bits4, bits6] = [Number(four), Number(six)]
      return bits4 <= 32 && bits6 <= 128 ? { qualifier, kind, domain: domain ?? null, bits4, bits6 } : null
    }
    case 'ip4':
    case 'ip6': {
      const { address = '', bits } = SINGLE.exec(rest)?.groups ?? {}
      const most = kind === 'ip4' ? 32 : 128
      const length = bits === undefined ? most : Number(bits)
      const isAddress = kind === 'ip4' ? QUAD.test(address) : isIpv6(address)
      return isAddress && length <= most ? { qualifier, kind, address, bits: length } : null
    }
    default:
      return null
  }
}

/** RFC 4291, section 2.2. */
function isIpv6(text: string): boolean {
  return /^[0-9a-f:.]+$/i.test(text) && text.includes(':') && URL.canParse(`http://[${text}]/`)
}
