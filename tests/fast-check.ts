import type * as FastCheck from 'fast-check'
import { seed, times } from './seed'

/*
 * What tests import as `fast-check`: its examples follow the run's seed, so a failure comes again with it, and a short run
 * tries fewer of them.
 */
const fastCheck = jest.requireActual<typeof FastCheck>('../node_modules/fast-check/lib/cjs/fast-check.js')

const examples = (many: number) =>
  times({ short: Math.min(many, Math.max(5, Math.ceil(many / 4))), whole: many, endure: many * 20 })

/** 100 examples are fast-check's own default. */
const withRun = <Values>(parameters: FastCheck.Parameters<Values> = {}): FastCheck.Parameters<Values> => ({
  seed,
  ...parameters,
  numRuns: examples(parameters.numRuns ?? 100),
})

const fc = {
  ...fastCheck,
  // What is synchronous stays so.
  assert: <Values>(property: FastCheck.IRawProperty<Values>, parameters?: FastCheck.Parameters<Values>) =>
    fastCheck.assert(property, withRun(parameters)),
}
export default fc
