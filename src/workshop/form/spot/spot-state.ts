import { computed } from 'vue'
import { codeReachProblem } from '#core/embed'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import { useArrivals } from '../../data'
import { useReceiver } from '../../sync'

/** Whether a spot takes sign-ups and is reached, in words. */
export function useSpotState(
  spot: () => Spot,
  about: () => {
    site: Site | null
    /** It posts straight to a service, and needs nobody to reach us. */ isDirect: boolean
    isPublished: boolean
    isArchived: boolean
  },
) {
  const receiver = useReceiver()
  const arrivals = useArrivals()
  /** Where visitors do not reach Ask Box, code would name this computer: it waits until they do. */
  const reach = computed(() => {
    const { site, isDirect } = about()
    return isDirect || site === null || receiver.publicUrl === null || addressProblem(site.address) !== null
      ? null
      : codeReachProblem(receiver.publicUrl, site)
  })
  /** Whoever signed up there did so while visitors reached it: the code may have been made elsewhere. */
  const hadVisitors = computed(() => arrivals.of(spot().form).some((one) => one.spot === spot().id))
  const stateWord = computed(() => {
    if (spot().state !== 'live') return spot().state
    if (!about().isPublished) return 'not published yet'
    if (about().isArchived) return 'archived, and still takes sign-ups'
    return reach.value !== null ? 'not reached by visitors' : 'live'
  })

  return { reach, hadVisitors, stateWord }
}
