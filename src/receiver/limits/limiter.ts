import { WindowedCounts } from './counts'
import { networksOf } from './network'

export interface Limiter {
  /** Counts one request from an address; seconds to wait when it was one too many, else 0. */
  take(address: string): number
  /** Uncounts one, of an owner who rehearses. */
  giveBack(address: string): void
}

/**
 * Sixty sign-ups a minute from one address: far more than a household or a club room needs at once, and
 * little for a bot; and somewhat more from the networks around it. This computer itself is not limited: it is the owner,
 * a stand-in, or a proxy that `ASKBOX_TRUST_PROXY` does not know, behind which all visitors would count as one.
 * Refused requests are not counted, so that one network never uses up the share of its neighbours.
 */
export function addressLimiter(points = 60, seconds = 60, now: () => number = () => performance.now()): Limiter {
  const counts = new WindowedCounts(seconds * 1000, now)
  return {
    giveBack(address) {
      for (const { key } of networksOf(address) ?? []) counts.takeBack(key)
    },
    take(address) {
      const networks = networksOf(address)
      if (networks === null) return 0
      for (const { key, factor } of networks)
        if (counts.count(key) + 1 > points * factor)
          return Math.max(1, Math.ceil(counts.waitFor(key, points * factor) / 1000))
      for (const { key } of networks) counts.add(key)
      return 0
    },
  }
}
