import { RateLimiterMemory } from 'rate-limiter-flexible'

export interface Limiter {
  /** Counts one sign-up from an address; seconds to wait when it was one too many, else 0. */
  take(address: string): Promise<number>
}

/**
 * Sixty sign-ups a minute from one address: far more than a household or a club room needs at once, and
 * little for a bot. This computer itself is not limited: it is the owner, a stand-in, or a proxy that
 * `ASKBOX_TRUST_PROXY` does not know, behind which all visitors would count as one.
 */
export function addressLimiter(points = 60, seconds = 60): Limiter {
  const limiter = new RateLimiterMemory({ points, duration: seconds })
  return {
    async take(address) {
      if (/^(127\.|::1$|::ffff:127\.)/.test(address)) return 0
      try {
        await limiter.consume(address)
        return 0
      } catch (refusal) {
        return Math.max(1, Math.ceil((refusal as { msBeforeNext: number }).msBeforeNext / 1000))
      }
    },
  }
}
