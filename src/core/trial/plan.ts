import { Z_95 } from '#core/results'
import { boundary, FALSE_ALARMS } from './sequence'
import { MOST_WORDINGS, type Plan } from './trial'

/** Of the standard normal distribution: 80 in 100 lie below it. */
export const Z_80 = 0.8416212335729143
/** Of the same, by the number of wordings: where 1 less 0.2, 0.2 / 2 and 0.2 / 3 lie below it. */
const Z_FOUND: Readonly<Record<number, number>> = { 2: Z_80, 3: 1.2815515655446004, 4: 1.5010859460440247 }

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

/**
 * How often a difference between two of them may be called where there is none. Who is called better has to be ahead of
 * each of the others, so it is ahead of one that is named before: half of what is called between two, for each that may be
 * in front.
 */
export const falseAlarmsOf = (wordings: number): number => (2 * FALSE_ALARMS) / wordings

/**
 * Views that each needs where one may look at any time, found 8 times in 10. Of several, the one in front has to be told from
 * each of the others: each of these may be missed so much less often (Bonferroni's inequality), as simulation bears out.
 */
export function viewsForAnyLook(plan: Pick<Plan, 'rate' | 'difference'>, wordings = 2): number {
  const [one, other] = sharesOf(plan)
  const deviations = boundary(falseAlarmsOf(wordings)) + (Z_FOUND[wordings] ?? Z_FOUND[MOST_WORDINGS]!)
  return Math.ceil((varianceOf(plan) * deviations ** 2) / (one - other) ** 2)
}

/** The variance that a difference of two is to have at the end of a plan. */
export function plannedVariance(plan: Plan): number {
  return varianceOf(plan) / plan.views
}

/** Of the difference between one view of each. */
function varianceOf(plan: Pick<Plan, 'rate' | 'difference'>): number {
  const [one, other] = sharesOf(plan)
  return one * (1 - one) + other * (1 - other)
}
