import { Z_95 } from '#core/results'
import { FALSE_ALARMS, halfWidth, tightestRatio } from './sequence'
import type { Plan } from './trial'

/** Of the standard normal distribution: 80 in 100 lie below it. */
export const Z_80 = 0.8416212335729143

/** Both shares of a plan: as it is now, and as it would be with the difference that matters, where they vary most. */
export function sharesOf({ rate, difference }: Pick<Plan, 'rate' | 'difference'>): [number, number] {
  const other = rate + difference < 1 ? rate + difference : Math.max(rate - difference, 0)
  return [rate, other]
}

/**
 * Views that each of two needs, looked at once at the end: two-sided at 5 in 100, found 8 times in 10.
 *
 * Source: J. L. Fleiss, B. Levin, M. C. Paik, "Statistical Methods for Rates and Proportions", 3rd ed. (2003), formula 4.14,
 * without the correction for continuity.
 */
export function viewsForOneLook(plan: Pick<Plan, 'rate' | 'difference'>, zBoth = Z_95, zPower = Z_80): number {
  const [one, other] = sharesOf(plan)
  const middle = (one + other) / 2
  const root = zBoth * Math.sqrt(2 * middle * (1 - middle)) + zPower * Math.sqrt(one * (1 - one) + other * (1 - other))
  return Math.ceil((root / (one - other)) ** 2)
}

/** The same where one may look at any time: the price is some nine views in ten more, most trials end before. */
export function viewsForAnyLook(plan: Pick<Plan, 'rate' | 'difference'>, pairs = 1, zPower = Z_80): number {
  const [one, other] = sharesOf(plan)
  const falseAlarms = FALSE_ALARMS / pairs
  const width = halfWidth(1, tightestRatio(falseAlarms), falseAlarms)
  const variance = one * (1 - one) + other * (1 - other)
  return Math.ceil((variance * (width + zPower) ** 2) / (one - other) ** 2)
}

/** The mixture that makes a plan's intervals tightest at its end. */
export function mixtureOf(plan: Plan, pairs = 1): number {
  const [one, other] = sharesOf(plan)
  return (tightestRatio(FALSE_ALARMS / pairs) * (one * (1 - one) + other * (1 - other))) / plan.views
}

/** Pairs among so many. */
export const pairsOf = (count: number): number => (count * (count - 1)) / 2
