/*
 * Intervals that hold however often one looks: a confidence sequence by a normal mixture.
 *
 * Source: H. Robbins, "Statistical methods related to the law of the iterated logarithm", Annals of Mathematical Statistics 41
 * (1970), 1397-1409; for trials of pages: R. Johari, P. Koomen, L. Pekelis, D. Walsh, "Always valid inference: continuous
 * monitoring of A/B tests", Operations Research 70 (2022), 1806-1821.
 */

/** How often, at most, a difference is called where there is none, over the whole of a trial. */
export const FALSE_ALARMS = 0.05

/**
 * Half the width of the interval of a difference.
 *
 * @param variance of the difference as estimated so far
 * @param mixture variance of the differences that are looked for; chosen before the trial, any value keeps it valid
 */
export function halfWidth(variance: number, mixture: number, falseAlarms = FALSE_ALARMS): number {
  const sum = variance + mixture
  return Math.sqrt(((variance * sum) / mixture) * (2 * Math.log(1 / falseAlarms) + Math.log(sum / variance)))
}

/** The ratio of mixture to variance at which the interval is tightest: r = 2 ln(1/a) + ln(1 + r), where its derivative is 0. */
export function tightestRatio(falseAlarms = FALSE_ALARMS): number {
  const start = 2 * Math.log(1 / falseAlarms)
  let ratio = start
  // A contraction: the derivative of the right side is below 1/6.
  for (let step = 0; step < 15; step++) ratio = start + Math.log1p(ratio)
  return ratio
}
