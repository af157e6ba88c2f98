import { computed } from 'vue'
import { codeReachProblem } from '#core/embed'
import { addressProblem, type Site } from '#core/site'
import type { Spot } from '#core/spot'
import { useArrivals, useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import { useReceiver } from '../../sync'

/** Whether a spot takes sign-ups and is reached, in words, and how that is changed. */
export function useSpotState(
  spot: () => Spot,
  about: () => {
    site: Site | null
    isPublished: boolean
    /** It posts straight to a service, and needs nobody to reach us. */ isDirect: boolean
  },
) {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const notices = useNotices()
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
  const stateWord = computed(() =>
    spot().state === 'live' && reach.value !== null ? 'not reached by visitors' : spot().state,
  )

  /** What the receiver needs to know at once: it answers by it. */
  async function change(changes: Partial<Omit<Spot, 'id' | 'form' | 'createdAt'>>): Promise<boolean> {
    await workspace.changeSpot(spot().id, changes)
    return !about().isPublished || receiver.tell('spot', spot().id)
  }

  async function setState(state: Spot['state']): Promise<void> {
    const before = spot().state
    const isTold = await change({ state })
    const undo = () => setState(before)
    if (state === 'live')
      notices.done(
        isTold
          ? 'The spot is live again.'
          : 'The spot is live here. It takes sign-ups again once Ask Box is reached, which happens by itself.',
        undo,
      )
    else
      notices.done(
        isTold
          ? `The spot is ${state}: its code takes no ${state === 'paused' ? 'sign-ups for now' : 'more sign-ups'}, and tells visitors so.`
          : `The spot is ${state} here, but Ask Box is not reached: its code still takes sign-ups until then, and is closed by itself.`,
        undo,
      )
  }

  return { reach, hadVisitors, stateWord, change, setState }
}
