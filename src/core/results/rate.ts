/** So many of so many. */
export interface Count {
  count: number
  of: number
}

export interface Interval {
  low: number
  high: number
}

/** Of the standard normal distribution: 95 in 100 lie within so many deviations. */
export const Z_95 = 1.959963984540054
/** Below so many views nothing is said of a rate but that it is too early. */
export const LEAST_VIEWS = 50

/**
 * The score interval of a share.
 *
 * Source: E. B. Wilson, "Probable inference, the law of succession, and statistical inference", JASA 22 (1927), as method 3
 * in R. G. Newcombe, "Two-sided confidence intervals for the single proportion", Statistics in Medicine 17 (1998), 857-872.
 *
 * @param of at least 1
 */
export function wilson({ count, of }: Count, z = Z_95): Interval {
  const share = count / of
  const middle = (share + (z * z) / (2 * of)) / (1 + (z * z) / of)
  const half = (z / (1 + (z * z) / of)) * Math.sqrt((share * (1 - share)) / of + (z * z) / (4 * of * of))
  // What rounding leaves is none.
  return { low: count === 0 ? 0 : Math.max(0, middle - half), high: count === of ? 1 : Math.min(1, middle + half) }
}

/**
 * How much more the first share is than the second, with its interval.
 *
 * Source: method 10 in R. G. Newcombe, "Interval estimation for the difference between independent proportions", Statistics
 * in Medicine 17 (1998), 873-890.
 */
export function difference(first: Count, second: Count, z = Z_95): Interval & { difference: number } {
  const [one, other] = [first.count / first.of, second.count / second.of]
  const [a, b] = [wilson(first, z), wilson(second, z)]
  const distance = (x: number, y: number) => Math.sqrt(x * x + y * y)
  return {
    difference: one - other,
    low: Math.max(-1, one - other - distance(one - a.low, b.high - other)),
    high: Math.min(1, one - other + distance(a.high - one, other - b.low)),
  }
}

export const isTooEarly = ({ of }: Count): boolean => of < LEAST_VIEWS

/** A rate in words: “between 2 and 5 in 100”; “too early: 41 views” in place of a number that would mean nothing. */
export function rateWords(count: Count, interval?: Interval): string {
  if (isTooEarly(count)) return `too early: ${count.of} view${count.of === 1 ? '' : 's'}`
  const { low, high } = interval ?? wilson(count)
  const per = high < 0.02 ? 1_000 : 100
  const [from, to] = [Math.round(low * per), Math.round(high * per)]
  const whole = per.toLocaleString('en-GB')
  return from === to ? `about ${from} in ${whole}` : `between ${from} and ${to} in ${whole}`
}

/**
 * Which of several shares are lower than the highest beyond what chance does; all others cannot be told apart from it. By
 * `difference`, the level divided by the number of pairs (Bonferroni), so that noise is not ranked.
 *
 * @param quantile of the standard normal distribution
 */
export function behindBest(counts: readonly Count[], quantile: (share: number) => number): boolean[] {
  const known = counts.filter((count) => !isTooEarly(count))
  const best = known.toSorted((one, other) => other.count / other.of - one.count / one.of)[0]
  if (best === undefined || known.length < 2) return counts.map(() => false)
  // Which is the best is seen from the same numbers, so all pairs count.
  const pairs = (known.length * (known.length - 1)) / 2
  const z = quantile(1 - 0.025 / pairs)
  return counts.map((count) => !isTooEarly(count) && count !== best && difference(best, count, z).low > 0)
}
