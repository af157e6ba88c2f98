import ipaddr from 'ipaddr.js'
import { expandSpfMacros, readSpf, type SpfMechanism, type SpfQualifier } from '#core/sender'
import { answersOf, type NameServers, NoNameServer, spfTextsOf } from './name-servers'

/** RFC 7208, section 4.6.4. */
export const MOST_LOOKUPS = 10
const MOST_EMPTY_LOOKUPS = 2
const MOST_MX = 10

/** Why receivers end with “permerror” (section 2.6.7); `domain` is where the fault stands. */
export type SpfFault =
  | { code: 'syntax'; domain: string; term: string }
  | { code: 'several-records' | 'no-record' | 'many-mx'; domain: string }
  /** `most` costly: the term of the domain itself at which the count was over. */
  | { code: 'many-lookups' | 'many-empty-lookups'; domain: string; term: string }

/** Of section 2.6, with what led to it. */
export type SpfOutcome =
  | { result: 'none' }
  | { result: 'pass' | 'fail' | 'softfail' | 'neutral'; lookups: number }
  | { result: 'permerror'; fault: SpfFault; lookups: number }
  | { result: 'temperror' }

const results = { '+': 'pass', '-': 'fail', '~': 'softfail', '?': 'neutral' } as const satisfies Record<
  SpfQualifier,
  string
>

class Fault extends Error {
  constructor(readonly fault: SpfFault) {
    super(fault.code)
  }
}

interface Walk {
  servers: NameServers
  address: ipaddr.IPv4 | ipaddr.IPv6 | null
  sender: string
  helo: string
  lookups: number
  emptyLookups: number
  /** Term of the first record that is being walked. */
  term: string
}

/**
 * `check_host()` of RFC 7208, section 4, for a return path in `domain`.
 *
 * @param address of the connecting server; with null no mechanism but `all` matches, so the whole record is walked and the
 *   result is the one for servers that it does not name. `ptr`, which section 5.5 says not to use, never matches.
 */
export async function checkSpf(
  { domain, address, sender = `postmaster@${domain}` }: { domain: string; address: string | null; sender?: string },
  servers: NameServers,
): Promise<SpfOutcome> {
  const walk: Walk = {
    servers,
    address: address === null ? null : ipaddr.process(address),
    sender,
    helo: domain,
    lookups: 0,
    emptyLookups: 0,
    term: '',
  }
  try {
    const result = await checkHost(domain, walk, true)
    return result === 'none' ? { result } : { result, lookups: walk.lookups }
  } catch (error) {
    if (error instanceof Fault) return { result: 'permerror', fault: error.fault, lookups: walk.lookups }
    if (error instanceof NoNameServer) return { result: 'temperror' }
    throw error
  }
}

type Result = 'none' | (typeof results)[SpfQualifier]

async function checkHost(domain: string, walk: Walk, isFirst: boolean): Promise<Result> {
  const texts = await spfTextsOf(domain, walk.servers)
  if (texts.length === 0) return 'none'
  if (texts.length > 1) throw new Fault({ code: 'several-records', domain })
  const reading = readSpf(texts[0]!)
  if (!reading.ok) throw new Fault({ code: 'syntax', domain, term: reading.term })
  const { mechanisms, redirect } = reading.record
  for (const mechanism of mechanisms) {
    if (isFirst) walk.term = termOf(mechanism)
    if (await matches(mechanism, domain, walk)) return results[mechanism.qualifier]
  }
  if (redirect === null || mechanisms.some(({ kind }) => kind === 'all')) return 'neutral'
  if (isFirst) walk.term = `redirect=${redirect}`
  count(walk, domain)
  const target = nameFor(redirect, domain, walk)
  if (target === null) return 'neutral'
  const result = await checkHost(target, walk, false)
  // Section 6.1: a redirect to nothing is a fault.
  if (result === 'none') throw new Fault({ code: 'no-record', domain: target })
  return result
}

async function matches(mechanism: SpfMechanism, domain: string, walk: Walk): Promise<boolean> {
  switch (mechanism.kind) {
    case 'all':
      return true
    case 'ip4':
    case 'ip6':
      return isWithin(walk.address, mechanism.address, mechanism.bits)
    case 'include': {
      count(walk, domain)
      const target = nameFor(mechanism.domain, domain, walk)
      if (target === null) return false
      const result = await checkHost(target, walk, false)
      // Section 5.2: what is included has to be there.
      if (result === 'none') throw new Fault({ code: 'no-record', domain: target })
      return result === 'pass'
    }
    case 'a': {
      count(walk, domain)
      const name = nameFor(mechanism.domain, domain, walk)
      if (name === null) return false
      return anyWithin(walk, await addressesOf(name, walk, true), mechanism)
    }
    case 'mx': {
      count(walk, domain)
      const name = nameFor(mechanism.domain, domain, walk)
      if (name === null) return false
      const exchanges = await answersOf(walk.servers.mx(name))
      if (exchanges.length === 0) countEmpty(walk, domain)
      if (exchanges.length > MOST_MX) throw new Fault({ code: 'many-mx', domain: name })
      for (const { exchange } of exchanges)
        // RFC 7505: a lone dot says that there is none.
        if (exchange !== '' && anyWithin(walk, await addressesOf(exchange, walk, false), mechanism)) return true
      return false
    }
    case 'exists': {
      count(walk, domain)
      const name = nameFor(mechanism.domain, domain, walk)
      if (name === null || walk.address === null) return false
      // Section 5.7: always of the older family.
      const found = await answersOf(walk.servers.addresses(name, 4))
      if (found.length === 0) countEmpty(walk, domain)
      return found.length > 0
    }
    case 'ptr':
      count(walk, domain)
      return false
  }
}

function count(walk: Walk, domain: string): void {
  walk.lookups++
  if (walk.lookups > MOST_LOOKUPS) throw new Fault({ code: 'many-lookups', domain, term: walk.term })
}

function countEmpty(walk: Walk, domain: string): void {
  walk.emptyLookups++
  if (walk.emptyLookups > MOST_EMPTY_LOOKUPS) throw new Fault({ code: 'many-empty-lookups', domain, term: walk.term })
}

function nameFor(text: string | null, domain: string, { sender, helo, address }: Walk): string | null {
  if (text === null) return domain
  return (
    expandSpfMacros(text, { sender, domain, helo, address: address === null ? null : spfAddress(address) })?.replace(
      /\.$/,
      '',
    ) ?? null
  )
}

/** Section 7.3: IPv6 addresses as hexadecimal digits with dots between. */
function spfAddress(address: ipaddr.IPv4 | ipaddr.IPv6): { dotted: string; family: 4 | 6 } {
  if (address.kind() === 'ipv4') return { dotted: address.toString(), family: 4 }
  const digits = address.toByteArray().map((byte) => byte.toString(16).padStart(2, '0'))
  return { dotted: digits.join('').split('').join('.'), family: 6 }
}

/** Of the family of the connecting server, of both where none is known. A name with neither is an empty look-up. */
async function addressesOf(name: string, walk: Walk, isCounted: boolean): Promise<string[]> {
  const [four, six] = await Promise.all([
    answersOf(walk.servers.addresses(name, 4)),
    answersOf(walk.servers.addresses(name, 6)),
  ])
  if (isCounted && four.length + six.length === 0) countEmpty(walk, name)
  return [...four, ...six]
}

function anyWithin(walk: Walk, addresses: string[], { bits4, bits6 }: { bits4: number; bits6: number }): boolean {
  return addresses.some((one) => isWithin(walk.address, one, one.includes(':') ? bits6 : bits4))
}

function isWithin(address: Walk['address'], network: string, bits: number): boolean {
  if (address === null || !ipaddr.isValid(network)) return false
  const parsed = ipaddr.parse(network)
  return parsed.kind() === address.kind() && address.match(parsed as ipaddr.IPv4, bits)
}

/** A mechanism as its record says it, without a sign that means nothing. */
export function termOf(mechanism: SpfMechanism): string {
  const sign = mechanism.qualifier === '+' ? '' : mechanism.qualifier
  switch (mechanism.kind) {
    case 'all':
      return `${sign}all`
    case 'ip4':
    case 'ip6':
      return `${sign}${mechanism.kind}:${mechanism.address}/${mechanism.bits}`
    case 'include':
    case 'exists':
    case 'ptr':
    case 'a':
    case 'mx':
      return `${sign}${mechanism.kind}${mechanism.domain === null ? '' : `:${mechanism.domain}`}`
  }
}
