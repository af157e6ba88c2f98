import ipaddr from 'ipaddr.js'
import { RateLimiterMemory } from 'rate-limiter-flexible'

export interface Limiter {
  /** Counts one request from an address; seconds to wait when it was one too many, else 0. */
  take(address: string): Promise<number>
  /** Uncounts one, of an owner who rehearses. */
  giveBack(address: string): Promise<void>
}

/** Addresses counted at once: more than a busy site has in a minute, and a few megabytes. */
const MOST_ADDRESSES = 50_000

/**
 * Sixty sign-ups a minute from one address: far more than a household or a club room needs at once, and
 * little for a bot. This computer itself is not limited: it is the owner, a stand-in, or a proxy that
 * `ASKBOX_TRUST_PROXY` does not know, behind which all visitors would count as one.
 */
export function addressLimiter(points = 60, seconds = 60, mostAddresses = MOST_ADDRESSES): Limiter {
  // Two spans of counting, each dropped as a whole: however many addresses come, memory has a bound.
  let limiter = new RateLimiterMemory({ points, duration: seconds })
  let counted = new Set<string>()
  return {
    async giveBack(address) {
      const network = networkOf(address)
      if (network !== null && counted.has(network)) await limiter.reward(network)
    },
    async take(address) {
      const network = networkOf(address)
      if (network === null) return 0
      if (!counted.has(network) && counted.size >= mostAddresses) {
        limiter = new RateLimiterMemory({ points, duration: seconds })
        counted = new Set()
      }
      counted.add(network)
      try {
        const { msBeforeNext, consumedPoints } = await limiter.consume(network)
        if (consumedPoints === 1) setTimeout(() => counted.delete(network), msBeforeNext).unref()
        return 0
      } catch (refusal) {
        return Math.max(1, Math.ceil((refusal as { msBeforeNext: number }).msBeforeNext / 1000))
      }
    },
  }
}

/**
 * What counts as one visitor's network: an IPv4 address, or the first 64 bits of an IPv6 address, which one
 * customer has whole (RFC 6177; RFC 4291, section 2.5.4). Null for this computer.
 */
function networkOf(address: string): string | null {
  // The usual ones first: parsing costs more than all the rest of counting.
  if (address === '127.0.0.1' || address === '::1') return null
  if (!ipaddr.isValid(address)) return address
  // `::ffff:192.0.2.1` is the IPv4 address in it.
  const parsed = ipaddr.process(address)
  if (parsed.range() === 'loopback') return null
  return parsed instanceof ipaddr.IPv6
    ? parsed.parts
        .slice(0, 4)
        .map((part) => part.toString(16))
        .join(':')
    : parsed.toString()
}
