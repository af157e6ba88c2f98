import { codeOf, isPastedAgain } from '#core/embed'
import type { FormId } from '#core/ids'
import type { Spot } from '#core/spot'
import { useArrivals, useWorkspace } from '../../data'

/**
 * Sign-ups of late that came from older code, though a newer version was there to paste: before it there was no newer code,
 * and a landing page, or code that follows by itself, is always the newest.
 */
export function useOlderCode() {
  const workspace = useWorkspace()
  const arrivals = useArrivals()
  const isPasted = (spot: Spot) => spot.kind !== 'landing' && isPastedAgain(codeOf(spot, workspace.site(spot.site)))
  return {
    count(form: FormId, only?: Spot): number {
      const latest = workspace.latestVersion(form)
      if (latest === null) return 0
      return arrivals.of(form).filter((one) => {
        const spot = workspace.spot(one.spot)
        return (
          spot !== null &&
          (only === undefined || only.id === spot.id) &&
          one.version < latest.number &&
          one.at > latest.publishedAt &&
          isPasted(spot)
        )
      }).length
    },
  }
}
