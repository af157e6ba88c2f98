import { getDomain } from 'tldts'
import { isMailProvider } from '#core/email'
import { domainOf } from '#core/mail'
import { type CountKey, WindowedCounts } from './counts'
import { networksOf, wordsOf } from './network'

const HOUR_MS = 3_600_000
/** A fair with one connection for all its visitors has as many; who needs more asks for each by a press. */
const NETWORK_AN_HOUR = 60
/** Of a domain whose people are not strangers to each other: a school, a firm. */
const DOMAIN_AN_HOUR = 60

/** Counters of a network or client that causes mail. */
export interface Cause {
  /** Its place among the sign-ups of the same network within an hour, from 1: mail goes by it, so that a flood waits behind everybody else. */
  turn: number
  /** Whether so much was caused that no more mail goes without a press of the person. */
  isFlood: boolean
}

/** Nobody's flood: what the owner, a rehearsal or a press on a link causes. */
export const calm: Cause = { turn: 1, isFlood: false }

/**
 * What a domain's share of mail is counted by; null for a mail provider, whose people have nothing to do with each other.
 * Sub-domains cost nothing, so all of a registrable domain (the Public Suffix List) are one.
 */
function domainCounted(domain: string): CountKey | null {
  const registrable = getDomain(domain) ?? domain
  return isMailProvider(domain) || isMailProvider(registrable) ? null : wordsOf(registrable)
}

/** Tells floods of sign-ups from visitors, in a fixed amount of memory. */
export class Causes {
  private readonly networks: WindowedCounts
  private readonly domains: WindowedCounts

  /** @param now milliseconds of a clock that does not leap */
  constructor(now: () => number = () => performance.now()) {
    this.networks = new WindowedCounts(HOUR_MS, now)
    this.domains = new WindowedCounts(HOUR_MS, now)
  }

  /**
   * Counts a sign-up.
   *
   * @param address the visitor's network address
   * @param compared whom the mail is to
   */
  take(address: string, compared: string): Cause {
    const networks = networksOf(address)
    // The owner, or a bench: this computer floods nobody.
    if (networks === null) return calm
    const ofDomain = domainCounted(domainOf(compared))
    let isFlood = ofDomain !== null && this.domains.count(ofDomain) >= DOMAIN_AN_HOUR
    let turn = 1
    for (const { key, factor } of networks) {
      const count = this.networks.count(key)
      turn = Math.max(turn, Math.floor(count / factor) + 1)
      if (count >= NETWORK_AN_HOUR * factor) isFlood = true
      this.networks.add(key)
    }
    if (ofDomain !== null && !isFlood) this.domains.add(ofDomain)
    return { turn, isFlood }
  }
}
