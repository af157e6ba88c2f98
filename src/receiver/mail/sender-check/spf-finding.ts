import ipaddr from 'ipaddr.js'
import type { SenderFinding } from '#core/api'
import { allowInSpf, mergeSpf, organizationalDomain, readSpf } from '#core/sender'
import { answersOf, type NameServers, NoNameServer, spfTextsOf } from './name-servers'
import { checkSpf, MOST_LOOKUPS, type SpfFault, type SpfOutcome } from './spf'

const ofOthers = {
  fail: 'All others are refused.',
  softfail: 'All others are suspect.',
  neutral: 'Nothing is said of others.',
  pass: 'Everybody else may send too, which protects nobody.',
}

/** Whether servers that mail goes through may send for a domain, RFC 7208. */
export async function spfFinding(
  { domain, host }: { domain: string; host: string | null },
  servers: NameServers,
): Promise<SenderFinding> {
  try {
    return await judge(domain, host, servers)
  } catch (error) {
    if (!(error instanceof NoNameServer)) throw error
    return {
      about: 'spf',
      verdict: 'unknown',
      found: '',
      says: 'No name server answered, so SPF could not be read.',
      proposed: null,
    }
  }
}

async function judge(domain: string, host: string | null, servers: NameServers): Promise<SenderFinding> {
  const texts = await spfTextsOf(domain, servers)
  const found = texts.join(' | ')
  const [text = ''] = texts
  const mechanism = await mechanismFor(host, domain, servers)
  const look = (says: string, value: string | null): SenderFinding => ({
    about: 'spf',
    verdict: 'look',
    found,
    says,
    proposed: value === null ? null : { name: domain, value, replaces: texts },
  })
  if (texts.length === 0)
    return look(
      `${domain} names no servers that may send for it (SPF). Some receivers then trust its mail less.${
        mechanism === '' ? ' Which record it needs is known once a mail server is set up that others can see.' : ''
      }`,
      // Without a server the record would say that nobody may send.
      mechanism === '' ? null : allowInSpf('', mechanism),
    )
  if (texts.length > 1)
    return look(
      'There are several SPF records; receivers then take none of them (RFC 7208, section 4.5). Put one in their place.',
      mergeSpf(texts, mechanism),
    )
  const others = await checkSpf({ domain, address: null }, servers)
  if (others.result === 'temperror') throw new NoNameServer()
  const ours = await outcomeFor(host, domain, servers)
  if (ours !== null && ours.result === 'pass' && others.result !== 'pass')
    return {
      about: 'spf',
      verdict: 'good',
      found,
      says: `${host} may send for ${domain}. ${saysOfOthers(others, domain)}`,
      proposed: null,
    }
  // The record is at fault for those it names, too, or nobody knows whom it would name.
  const fault = ours?.result === 'permerror' ? ours.fault : others.result === 'permerror' ? others.fault : null
  if (fault !== null) return look(faultInWords(fault, domain), null)
  if (others.result === 'pass') return look(ofOthers.pass, allowInSpf(text, mechanism))
  const named = includedOf(text)
  const ofNamed = named.length > 0 ? `Servers of ${named.join(', ')} may send for ${domain}. ` : ''
  if (host === null || isProviderNamed(host, named))
    return {
      about: 'spf',
      verdict: 'good',
      found,
      says: `${ofNamed}${saysOfOthers(others, domain)}${host === null ? '' : ` ${host} is of the same provider.`}`,
      proposed: null,
    }
  return look(
    `${host}, through which your mail goes, is not among the servers that may send for ${domain}. ${saysOfOthers(others, domain)} If the help of your mail service names another entry, take that one.`,
    mechanism === '' ? null : allowInSpf(text, mechanism),
  )
}

function saysOfOthers(outcome: SpfOutcome, domain: string): string {
  if (outcome.result === 'permerror') return `For others: ${faultInWords(outcome.fault, domain)}`
  return outcome.result in ofOthers ? ofOthers[outcome.result as keyof typeof ofOthers] : ''
}

function faultInWords(fault: SpfFault, domain: string): string {
  const where = fault.domain === domain ? 'The record' : `What the record takes in from ${fault.domain}`
  switch (fault.code) {
    case 'syntax':
      return `${where} cannot be read at “${fault.term}”; receivers then take none of it (RFC 7208, section 4.6).`
    case 'several-records':
      return `${fault.domain}, which the record takes in, has several SPF records; receivers then take none (RFC 7208, section 4.5).`
    case 'no-record':
      return `The record takes in ${fault.domain}, which has no SPF record; receivers then take none of it (RFC 7208, section 5.2). Take that entry out.`
    case 'many-mx':
      return `${fault.domain} names more than ten mail servers; receivers then take none of the record (RFC 7208, section 4.6.4).`
    case 'many-lookups':
      return `The record needs more than ${MOST_LOOKUPS} look-ups, and receivers stop there (RFC 7208, section 4.6.4): at “${fault.term}” it is over. Take out what no longer sends for you.`
    case 'many-empty-lookups':
      return `The record names more than two servers that do not exist; receivers then take none of it (RFC 7208, section 4.6.4). Look at “${fault.term}”.`
  }
}

/** Whom a record takes in, at the first level. */
function includedOf(text: string): string[] {
  const reading = readSpf(text)
  if (!reading.ok) return []
  const { mechanisms, redirect } = reading.record
  const included = mechanisms.flatMap((one) => (one.kind === 'include' && one.qualifier === '+' ? [one.domain] : []))
  return redirect === null ? included : [...included, redirect]
}

/** A provider hands mail out through other servers than it takes it by, mostly under the same domain (common practice). */
const isProviderNamed = (host: string, included: string[]): boolean =>
  included.some((name) => organizationalDomain(name) === organizationalDomain(host))

/** The outcome for the addresses of a host, the worst of them; null where it has none that others can see. */
async function outcomeFor(host: string | null, domain: string, servers: NameServers): Promise<SpfOutcome | null> {
  if (host === null) return null
  const addresses = (await addressesOf(host, servers)).filter(isSeenFromOutside)
  let worst: SpfOutcome | null = null
  for (const address of addresses.slice(0, 4)) {
    const outcome = await checkSpf({ domain, address }, servers)
    if (outcome.result === 'temperror') throw new NoNameServer()
    if (worst === null || outcome.result !== 'pass') worst = outcome
  }
  return worst
}

/** Whether receivers of mail may be connected to from an address. */
const isSeenFromOutside = (address: string): boolean =>
  !['loopback', 'private', 'linkLocal', 'uniqueLocal', 'unspecified', 'carrierGradeNat'].includes(
    ipaddr.process(address).range(),
  )

async function addressesOf(host: string, servers: NameServers): Promise<string[]> {
  if (ipaddr.isValid(host)) return [host]
  const [four, six] = await Promise.all([answersOf(servers.addresses(host, 4)), answersOf(servers.addresses(host, 6))])
  return [...four, ...six]
}

/**
 * What lets a host send: the record that its provider keeps for it, where there is one under a usual name (common practice),
 * else its own address. '' where no host is known.
 */
async function mechanismFor(host: string | null, domain: string, servers: NameServers): Promise<string> {
  if (host === null || host === 'localhost') return ''
  if (ipaddr.isValid(host)) {
    const address = ipaddr.process(host)
    return isSeenFromOutside(host) ? `${address.kind() === 'ipv4' ? 'ip4' : 'ip6'}:${address.toString()}` : ''
  }
  const provider = organizationalDomain(host)
  if (provider !== organizationalDomain(domain))
    for (const name of [`_spf.${provider}`, `spf.${provider}`, host, provider])
      if ((await spfTextsOf(name, servers)).length === 1) return `include:${name}`
  return `a:${host}`
}
