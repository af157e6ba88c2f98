import fc from 'fast-check'
import { jStat } from 'jstat'
import type { Interval } from '#core/results'
import {
  barsOf,
  boundary,
  differenceBetween,
  halfWidth,
  isUneven,
  judge,
  judgementWords,
  type Plan,
  plannedVariance,
  shareWords,
  viewsForAnyLook,
  viewsForOneLook,
} from '.'
import { called } from '../../../tests/trials'

const quantile = (share: number) => jStat.normal.inv(share, 0, 1)
const chiSquared = (x: number, degrees: number) => jStat.chisquare.cdf(x, degrees)

describe('views that are needed', () => {
  // J. L. Fleiss, B. Levin, M. C. Paik, "Statistical Methods for Rates and Proportions", 3rd ed. (2003), table A.4, from memory;
  // its figures are corrected for continuity by formula 4.15, n/4 (1 + sqrt(1 + 4 / (n d)))^2.
  test.each([
    { rate: 0.05, other: 0.1, table: 474 },
    { rate: 0.1, other: 0.2, table: 219 },
    { rate: 0.2, other: 0.3, table: 313 },
    { rate: 0.5, other: 0.6, table: 407 },
  ])('$rate against $other, as the handbook’s table has them', ({ rate, other, table }) => {
    const views = viewsForOneLook({ rate, difference: other - rate })
    const corrected = (views / 4) * (1 + Math.sqrt(1 + 4 / (views * (other - rate)))) ** 2
    expect(Math.abs(corrected - table)).toBeLessThanOrEqual(1.5)
  })

  test('R’s own example, help page of power.prop.test (R 4): n = 76.7 for 0.50 and 0.75 at a power of 0.90', () =>
    expect(viewsForOneLook({ rate: 0.5, difference: 0.25 }, undefined, quantile(0.9))).toBe(77))

  // J. Cohen, "Statistical Power Analysis for the Behavioral Sciences", 2nd ed. (1988), table 6.4.1, from memory: by the
  // arcsine of shares, so somewhat other figures.
  test.each([
    { h: 0.2, table: 392 },
    { h: 0.3, table: 174 },
    { h: 0.5, table: 63 },
  ])('effect $h: within 3 in 100 of Cohen’s table', ({ h, table }) => {
    const rate = 0.4
    const other = Math.sin(Math.asin(Math.sqrt(rate)) + h / 2) ** 2
    expect(viewsForOneLook({ rate, difference: other - rate }) / table).toBeCloseTo(1, 1.5)
  })

  test('looking at any time never needs fewer views than looking once, and less than thrice as many', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.005, max: 0.5, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (rate, part) => {
          const plan = { rate, difference: rate * part }
          const ratio = viewsForAnyLook(plan) / viewsForOneLook(plan)
          // Of a few views for a huge difference, both may round to as many.
          expect(ratio).toBeGreaterThanOrEqual(1)
          if (part < 0.5) expect(ratio).toBeGreaterThan(1)
          expect(ratio).toBeLessThan(3)
        },
      ),
    )
  })
})

describe('looking early', () => {
  test.each([0.05, 0.1 / 3, 0.025, 0.001])(
    'of %d: the boundary lies between one part alone and both without their overlap',
    (falseAlarms) => {
      // The reflection principle: |B| reaches c before t = 1 with a chance of at most 4 (1 - F(c)); of 0.05 that is c = 2.2414,
      // the constant of O'Brien and Fleming for looking without a pause (Lan and DeMets 1983, from memory).
      const alone = quantile(1 - falseAlarms / 4)
      const both = quantile(1 - falseAlarms / 8)
      expect(boundary(falseAlarms)).toBeGreaterThan(alone)
      expect(boundary(falseAlarms)).toBeLessThan(both)
      if (falseAlarms === 0.05) expect(alone).toBeCloseTo(2.2414, 4)
    },
  )

  test('the interval is tightest, in deviations, where the plan ends', () => {
    const deviations = (variance: number) => halfWidth(variance, 1) / Math.sqrt(variance)
    expect(deviations(1)).toBeCloseTo(boundary(0.05), 10)
    for (const variance of [0.3, 0.9, 1.1, 4]) expect(deviations(variance)).toBeGreaterThan(deviations(1))
  })

  const RUNS = 2_000
  /** Three standard deviations of a share that so many runs tell; `npm run bench` simulates ten thousand and has none. */
  const within = (share: number) => 3 * Math.sqrt((share * (1 - share)) / RUNS)

  const planned = (rate: number, difference: number, wordings = 2): Plan => ({
    rate,
    difference,
    views: viewsForAnyLook({ rate, difference }, wordings),
  })

  test.each([
    { rate: 0.1, difference: 0.05 },
    // A plan that guessed wrongly is no reason to call noise a difference, nor is going on after its end.
    { rate: 0.02, difference: 0.03, real: 0.2 },
    { rate: 0.3, difference: 0.1, times: 3 },
    { rate: 0.1, difference: 0.06, wordings: 3 },
    { rate: 0.1, difference: 0.06, wordings: 4 },
  ])(
    'of alike wordings at most 5 in 100 are called better: %o',
    ({ rate, difference, real = rate, wordings = 2, times = 1 }) => {
      const rates = Array.from({ length: wordings }, () => real)
      const { wrong } = called({ rates, plan: planned(rate, difference, wordings), seed: 7, times, runs: RUNS })
      expect(wrong).toBeLessThanOrEqual(0.05 + within(0.05))
    },
  )

  test('nor where one of three is worse and the others are alike', () =>
    expect(
      called({ rates: [0.1, 0.1, 0.05], plan: planned(0.1, 0.06, 3), seed: 5, runs: RUNS }).right,
    ).toBeLessThanOrEqual(0.05 + within(0.05)))

  test.each([{ rates: [0.1, 0.15] }, { rates: [0.1, 0.15, 0.1] }, { rates: [0.1, 0.1, 0.1, 0.15] }])(
    'the difference that was planned for is found at least 8 times in 10, the wrong way about hardly ever: $rates',
    ({ rates }) => {
      const [low, high] = [Math.min(...rates), Math.max(...rates)]
      const { right, wrong } = called({ rates, plan: planned(low, high - low, rates.length), seed: 3, runs: RUNS })
      expect(right).toBeGreaterThanOrEqual(0.8 - within(0.8))
      expect(wrong).toBeLessThan(0.005)
    },
  )
})

describe('what a trial says', () => {
  const plan: Plan = { rate: 0.1, difference: 0.05, views: viewsForAnyLook({ rate: 0.1, difference: 0.05 }) }
  const of = (...pairs: [views: number, signUps: number][]) =>
    pairs.map(([views, signUps], at) => ({ version: at + 4, views, signUps }))
  test.each([
    { counts: of([40, 9], [60, 2]), kind: 'too-early' },
    { counts: of([400, 3], [400, 4]), kind: 'too-early' },
    { counts: of([400, 40], [400, 52]), kind: 'open' },
    { counts: of([900, 90], [900, 180]), kind: 'better' },
    { counts: of([9_000, 900], [9_000, 905]), kind: 'alike' },
    { counts: of([plan.views, 150], [plan.views, 170]), kind: 'alike' },
    { counts: of([100, 101], [100, 5]), kind: 'uncounted' },
    // The best is better than each of the others, not only than the worst.
    { counts: of([640, 128], [640, 130], [640, 30]), kind: 'open' },
  ])('$counts: $kind', ({ counts, kind }) => {
    const judgement = judge(plan, counts)
    expect(judgement.kind).toBe(kind)
    expect(judgementWords(judgement, () => 'Short')).toMatch(/\.$/)
    // What is over is not still to be decided.
    expect(judgementWords(judgement, () => 'Short', true)).not.toMatch(/yet|^Too early/)
  })

  test('property: the bars of two lie apart where one is called better, and there alone', () => {
    const count = fc.tuple(fc.integer({ min: 60, max: 5_000 }), fc.double({ min: 0.01, max: 0.99, noNaN: true }))
    fc.assert(
      fc.property(count, count, (one, other) => {
        const counts = of([one[0], Math.floor(one[0] * one[1])], [other[0], Math.floor(other[0] * other[1])])
        const judgement = judge(plan, counts)
        if (judgement.kind === 'too-early') return
        const [first, second] = barsOf(plan, counts) as [Interval, Interval]
        const gap = Math.max(first.low - second.high, second.low - first.high)
        if (Math.abs(gap) > 1e-9) expect(gap > 0).toBe(judgement.kind === 'better')
      }),
    )
  })

  test('it does not depend on which of two is named first', () => {
    const count = fc.tuple(fc.integer({ min: 1, max: 5_000 }), fc.double({ min: 0, max: 1, noNaN: true }))
    fc.assert(
      fc.property(count, count, (one, other) => {
        const counts = of([one[0], Math.floor(one[0] * one[1])], [other[0], Math.floor(other[0] * other[1])])
        const here = differenceBetween(counts[0]!, counts[1]!, plannedVariance(plan), 0.05)
        const there = differenceBetween(counts[1]!, counts[0]!, plannedVariance(plan), 0.05)
        expect(here.low).toBeCloseTo(-there.high, 12)
        expect(judge(plan, counts).kind).toBe(judge(plan, counts.toReversed()).kind)
      }),
    )
  })

  test.each([
    { counts: of([500, 0], [520, 0]), isTrouble: false },
    // 10.83 is the value that chi-squared with one degree of freedom exceeds once in 1,000 (common tables).
    { counts: of([1_000 + 73, 0], [1_000 - 73, 0]), isTrouble: false },
    { counts: of([1_000 + 74, 0], [1_000 - 74, 0]), isTrouble: true },
    { counts: of([3, 0], [0, 0]), isTrouble: false },
  ])('shares of views $counts: trouble $isTrouble', ({ counts, isTrouble }) =>
    expect(isUneven(counts, chiSquared)).toBe(isTrouble),
  )

  test.each([
    [0.034, '3.4 in 100'],
    [0.12, '12 in 100'],
    [-0.0042, '4.2 in 1,000'],
    [0, '0 in 100'],
  ])('%p is said as %p', (share, words) => expect(shareWords(share)).toBe(words))
})
