import { joiningByHand } from './joining'
import { type CaseSteps, notTried } from './step'
import type { CaseContext } from './way'

const WHAT = 'In Firefox'

/** Somebody signs up in Firefox; nothing where there is none. */
export async function* firefox(way: CaseContext): CaseSteps {
  const { browser } = way.ports
  if (browser?.kind !== 'visits' || browser.hasFirefox !== true) return
  if (way.wording !== undefined)
    return yield notTried(
      'form',
      WHAT,
      'Other words are tried there: which of them comes in Firefox is left to chance.',
    )
  for await (const step of joiningByHand(way, 'firefox', 'firefox', WHAT)) {
    // Nobody opens or closes anything there, as the others do: what is behind something is none of its findings.
    if (step.verdict === 'failed' && step.station === 'spot')
      return yield notTried(
        'form',
        WHAT,
        `It was not in reach without opening something, or waiting longer. ${step.seen}`,
      )
    yield step
  }
}
