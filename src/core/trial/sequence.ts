/*
 * Intervals that hold however often one looks, tightest at the planned end.
 *
 * With t the share of the planned information that is there, the standardized difference times the root of t is a Brownian
 * motion B(t). What is called a difference is one at which |B(t)| reaches c while t <= 1, or c t afterwards. Up to the plan
 * that is the boundary of O'Brien and Fleming, looked at without a pause; after it the same by inversion of time, since
 * t B(1/t) is a Brownian motion too. Given B(1), both parts are independent bridges, of which each reaches c at most with the
 * chance exp(-2c(c-x)) + exp(-2c(c+x)).
 *
 * Sources: P. C. O'Brien, T. R. Fleming, "A multiple testing procedure for clinical trials", Biometrics 35 (1979), 549-556;
 * C. Jennison, B. W. Turnbull, "Group Sequential Methods with Applications to Clinical Trials" (2000), chapters 2, 3 and 9;
 * the crossing of a bridge: P. Billingsley, "Convergence of Probability Measures" (1968), section 11. From memory.
 */

/** How often, at most, a difference is called where there is none, over the whole of a trial. */
export const FALSE_ALARMS = 0.05

/**
 * Half the width of the interval of a difference.
 *
 * @param variance of the difference as estimated so far
 * @param planned variance that it is to have at the planned end; any value keeps the interval valid
 */
export function halfWidth(variance: number, planned: number, falseAlarms = FALSE_ALARMS): number {
  return boundary(falseAlarms) * Math.max(variance / Math.sqrt(planned), Math.sqrt(planned))
}

const boundaries = new Map<number, number>()

/** The c above: how many deviations a difference has at the planned end to be called one. */
export function boundary(falseAlarms: number): number {
  const known = boundaries.get(falseAlarms)
  if (known !== undefined) return known
  let [low, high] = [1, 8]
  for (let step = 0; step < 60; step++) {
    const middle = (low + high) / 2
    if (chanceOfReaching(middle) > falseAlarms) low = middle
    else high = middle
  }
  boundaries.set(falseAlarms, high)
  return high
}

const STEPS = 2_000

/** How likely it is to be reached at any time where there is no difference: 1 less the integral over B(1), by Simpson's rule. */
function chanceOfReaching(c: number): number {
  const width = (2 * c) / STEPS
  let sum = 0
  for (let at = 0; at <= STEPS; at++) {
    const x = -c + at * width
    const reached = Math.min(1, Math.exp(-2 * c * (c - x)) + Math.exp(-2 * c * (c + x)))
    const density = Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)
    sum += (at === 0 || at === STEPS ? 1 : at % 2 === 1 ? 4 : 2) * density * (1 - reached) ** 2
  }
  return 1 - (sum * width) / 3
}
