import { createRequire } from 'node:module'
import type * as Statistics from 'jstat'
import { judge, type Plan } from '#core/trial'
import { generator } from './random'

// Node cannot tell what the package exports, where it is asked as a module.
const { jStat } = createRequire(import.meta.url)('jstat') as typeof Statistics

/** Views between two looks at a simulated trial. */
const STEP = 40

/**
 * Simulates trials that are looked at after each 40 views.
 *
 * @param rates of each wording, 0 to 1
 * @param times how often the plan's views are used up
 * @returns shares of the trials in which the best wording, and in which another, was called better
 */
export function called({
  rates,
  plan,
  seed,
  runs,
  times = 1,
}: {
  rates: readonly number[]
  plan: Plan
  seed: number
  runs: number
  times?: number
}): { right: number; wrong: number } {
  const random = generator(seed)
  const tables = rates.map((rate) => Array.from({ length: STEP }, (_, at) => jStat.binomial.cdf(at, STEP, rate)))
  let right = 0
  let wrong = 0
  for (let run = 0; run < runs; run++) {
    const counts = rates.map((_, at) => ({ version: at + 1, views: 0, signUps: 0 }))
    for (let views = STEP; views <= plan.views * times; views += STEP) {
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
  return { right: right / runs, wrong: wrong / runs }
}
