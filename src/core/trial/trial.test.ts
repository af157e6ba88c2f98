import fc from 'fast-check'
import { jStat } from 'jstat'
import {
  differenceBetween,
  halfWidth,
  isUneven,
  judge,
  judgementWords,
  mixtureOf,
  type Plan,
  shareWords,
  tightestRatio,
  viewsForAnyLook,
  viewsForOneLook,
} from '.'

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

  test('looking at any time needs more views than looking once, and less than thrice as many', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.005, max: 0.5, noNaN: true }),
        fc.double({ min: 0.1, max: 0.9, noNaN: true }),
        (rate, part) => {
          const plan = { rate, difference: rate * part }
          const ratio = viewsForAnyLook(plan) / viewsForOneLook(plan)
          expect(ratio).toBeGreaterThan(1)
          expect(ratio).toBeLessThan(3)
        },
      ),
    )
  })
})

describe('looking early', () => {
  test('the interval ends where the likelihood of the mixture is 20 times that of no difference', () => {
    for (const [variance, mixture] of [
      [0.0004, 0.003],
      [1, 1],
      [2, 0.1],
    ] as const) {
      const edge = halfWidth(variance, mixture)
      const ratio =
        jStat.normal.pdf(edge, 0, Math.sqrt(variance + mixture)) / jStat.normal.pdf(edge, 0, Math.sqrt(variance))
      expect(ratio).toBeCloseTo(20, 8)
    }
  })

  test('no other mixture makes it tighter', () => {
    const best = halfWidth(1, tightestRatio())
    for (const factor of [0.25, 0.8, 1.25, 4]) expect(halfWidth(1, tightestRatio() * factor)).toBeGreaterThan(best)
  })

  const RUNS = 10_000
  const STEP = 40

  /** Of so many trials that are looked at after each 40 views, how many call a wording better before the plan is used up. */
  function called({ rates, plan, seed }: { rates: readonly number[]; plan: Plan; seed: number }) {
    const random = generator(seed)
    const tables = rates.map((rate) => Array.from({ length: STEP }, (_, at) => jStat.binomial.cdf(at, STEP, rate)))
    let right = 0
    let wrong = 0
    for (let run = 0; run < RUNS; run++) {
      const counts = rates.map((_, at) => ({ version: at + 1, views: 0, signUps: 0 }))
      for (let views = STEP; views <= plan.views; views += STEP) {
        for (const [at, count] of counts.entries()) {
          count.views = views
          const [table, draw] = [tables[at]!, random()]
          let joined = 0
          while (joined < STEP && draw > table[joined]!) joined += 1
          count.signUps += joined
        }
        const judgement = judge(plan, counts)
        if (judgement.kind !== 'better') continue
        if (rates[judgement.version - 1] === Math.max(...rates) && new Set(rates).size > 1) right += 1
        else wrong += 1
        break
      }
    }
    return { right: right / RUNS, wrong: wrong / RUNS }
  }

  const planned = (rate: number, difference: number, pairs = 1): Plan => ({
    rate,
    difference,
    views: viewsForAnyLook({ rate, difference }, pairs),
  })

  test.each([
    { rate: 0.1, difference: 0.05 },
    // A plan that guessed wrongly is no reason to call noise a difference.
    { rate: 0.02, difference: 0.03, real: 0.2 },
  ])('of alike wordings at most 5 in 100 are called better: %o', ({ rate, difference, real = rate }) => {
    expect(called({ rates: [real, real], plan: planned(rate, difference), seed: 7 }).wrong).toBeLessThanOrEqual(0.05)
  })

  test('nor of three that are alike', () =>
    expect(called({ rates: [0.1, 0.1, 0.1], plan: planned(0.1, 0.06, 3), seed: 11 }).wrong).toBeLessThanOrEqual(0.05))

  test('the difference that was planned for is found at least 8 times in 10, the wrong way about hardly ever', () => {
    const { right, wrong } = called({ rates: [0.1, 0.15], plan: planned(0.1, 0.05), seed: 3 })
    expect(right).toBeGreaterThanOrEqual(0.8)
    expect(wrong).toBeLessThan(0.005)
  })
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
    { counts: of([900, 178], [900, 180], [900, 40]), kind: 'open' },
  ])('$counts: $kind', ({ counts, kind }) => {
    const judgement = judge(plan, counts)
    expect(judgement.kind).toBe(kind)
    expect(judgementWords(judgement, () => 'Short')).toMatch(/\.$/)
    // What is over is not still to be decided.
    expect(judgementWords(judgement, () => 'Short', true)).not.toMatch(/yet|^Too early/)
  })

  test('it does not depend on which of two is named first', () => {
    const count = fc.tuple(fc.integer({ min: 1, max: 5_000 }), fc.double({ min: 0, max: 1, noNaN: true }))
    fc.assert(
      fc.property(count, count, (one, other) => {
        const counts = of([one[0], Math.floor(one[0] * one[1])], [other[0], Math.floor(other[0] * other[1])])
        const here = differenceBetween(counts[0]!, counts[1]!, mixtureOf(plan), 0.05)
        const there = differenceBetween(counts[1]!, counts[0]!, mixtureOf(plan), 0.05)
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

/** Pseudorandom numbers from 0 up to 1, the same for the same seed: mulberry32, in the public domain. */
function generator(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}
