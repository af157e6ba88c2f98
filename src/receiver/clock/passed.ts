/**
 * Whether so much time lies between a moment that was written down and now, either way: a moment to come was written before
 * the clock was set back, and would hold what waits for it until then.
 *
 * @param at all three in milliseconds, `at` and `now` since 1970
 */
export function hasPassed(at: number, ms: number, now: number): boolean {
  return Math.abs(now - at) >= ms
}
