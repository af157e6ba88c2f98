import { type Interval, isTooEarly } from '#core/results'
import { falseAlarmsOf, plannedVariance } from './plan'
import { halfWidth } from './sequence'
import type { Plan, WordingCount } from './trial'

/** Below so many sign-ups of all together, shares are too uncertain for the normal distribution, as below `LEAST_VIEWS` of one. Common practice, without a source. */
const LEAST_SIGN_UPS = 10
/** Sums as uneven as come by chance once in so many trials are called trouble. */
const UNEVEN = 0.001

export type Judgement =
  | { kind: 'too-early' }
  /** Nothing can be said: more signed up than were counted as views. */
  | { kind: 'uncounted' }
  /** The one in front brings so much more than the one that comes next, or less. */
  | { kind: 'open'; version: number; between: Interval }
  /** It brings more than each of the others; `ahead` is how much more than the one that comes next. */
  | { kind: 'better'; version: number; ahead: Interval }
  /** All differences are smaller than what matters, or the planned views are used up and none was found. */
  | { kind: 'alike'; between: Interval; isUsedUp: boolean }

/**
 * What a trial says at this moment. It may be asked at any time: over the whole of a trial, at most 5 in 100 trials of
 * wordings that are alike are called better.
 */
export function judge(plan: Plan, counts: readonly WordingCount[]): Judgement {
  if (counts.some(({ views, signUps }) => signUps > views)) return { kind: 'uncounted' }
  const signUps = counts.reduce((sum, one) => sum + one.signUps, 0)
  if (counts.some(({ views, signUps: count }) => isTooEarly({ count, of: views })) || signUps < LEAST_SIGN_UPS)
    return { kind: 'too-early' }
  const ordered = counts.toSorted((one, other) => other.signUps / other.views - one.signUps / one.views)
  const planned = plannedVariance(plan)
  const between = (one: WordingCount, other: WordingCount) =>
    differenceBetween(one, other, planned, falseAlarmsOf(counts.length))
  const ahead = between(ordered[0]!, ordered[1]!)
  if (ordered.slice(1).every((other) => between(ordered[0]!, other).low > 0))
    return { kind: 'better', version: ordered[0]!.version, ahead }
  const widest = between(ordered[0]!, ordered.at(-1)!)
  const isSmall = widest.high < plan.difference && widest.low > -plan.difference
  const isUsedUp = counts.every(({ views }) => views >= plan.views)
  if (isSmall || isUsedUp) return { kind: 'alike', between: widest, isUsedUp: !isSmall }
  return { kind: 'open', version: ordered[0]!.version, between: ahead }
}

/** How much more the first brings than the second, as shares; holds however often it is asked for. `planned`: see `halfWidth`. */
export function differenceBetween(
  one: WordingCount,
  other: WordingCount,
  planned: number,
  falseAlarms: number,
): Interval & { difference: number } {
  const difference = one.signUps / one.views - other.signUps / other.views
  const half = halfWidth(varianceOf(one) + varianceOf(other), planned, falseAlarms)
  return { difference, low: Math.max(-1, difference - half), high: Math.min(1, difference + half) }
}

/**
 * A bar for each wording's share, as long as what is called: bars of two lie apart only where one is called better than the
 * other. The width of their difference is shared out by how sure each share is.
 */
export function barsOf(plan: Plan, counts: readonly WordingCount[]): Interval[] {
  const planned = plannedVariance(plan)
  const falseAlarms = falseAlarmsOf(counts.length)
  return counts.map((one) => {
    const share = one.signUps / one.views
    const own = varianceOf(one)
    const halves = counts
      .filter((other) => other !== one)
      .map((other) => {
        const sum = own + varianceOf(other)
        return (halfWidth(sum, planned, falseAlarms) * own) / sum
      })
    const half = Math.max(...halves)
    return { low: Math.max(0, share - half), high: Math.min(1, share + half) }
  })
}

/** One sign-up and one view without are added, so that it is never 0 (Laplace's rule of succession). */
function varianceOf({ views, signUps }: WordingCount): number {
  const share = (signUps + 1) / (views + 2)
  return (share * (1 - share)) / views
}

/**
 * Whether views are shared out less evenly than chance does: something is wrong with how wordings are shown or counted.
 * Pearson's chi-squared test of equal shares.
 *
 * @param chiSquared distribution function for a value and degrees of freedom
 */
export function isUneven(counts: readonly WordingCount[], chiSquared: (x: number, degrees: number) => number): boolean {
  const views = counts.reduce((sum, one) => sum + one.views, 0)
  const expected = views / counts.length
  if (expected < 5) return false
  const statistic = counts.reduce((sum, one) => sum + (one.views - expected) ** 2 / expected, 0)
  return 1 - chiSquared(statistic, counts.length - 1) < UNEVEN
}
