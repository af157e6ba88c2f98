import type { As } from '#core/rehearsal'
import type { Spot } from '#core/spot'

/** A rehearsal may have its spot held for closed, to see what visitors would. */
export function spotHeldAs(spot: Spot | undefined, as: As | null): Spot | undefined {
  return spot === undefined || as === null ? spot : { ...spot, state: as }
}
