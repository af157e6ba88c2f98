import type { Spot } from '#core/spot'
import { useWorkspace } from '../../data'
import { useNotices } from '../../notices'
import { useReceiver } from '../../sync'

/** Changes of a spot, wherever they are made: the receiver hears of them at once, because it answers by them. */
export function useSpotChanges() {
  const workspace = useWorkspace()
  const receiver = useReceiver()
  const notices = useNotices()

  /** @returns false where the receiver has yet to hear of it */
  async function change(spot: Spot, changes: Partial<Omit<Spot, 'id' | 'form' | 'createdAt'>>): Promise<boolean> {
    await workspace.changeSpot(spot.id, changes)
    const isPublished = workspace.allVersionsOf(spot.form).length > 0
    return !isPublished || receiver.tell('spot', spot.id)
  }

  /** Pauses, retires or opens it again, and says what that means. */
  async function setState(spot: Spot, state: Spot['state']): Promise<void> {
    const before = workspace.spot(spot.id)?.state ?? spot.state
    const isTold = await change(spot, { state })
    notices.done(wordsFor(state, isTold), () => setState(spot, before))
  }

  return { change, setState }
}

function wordsFor(state: Spot['state'], isTold: boolean): string {
  if (state === 'live')
    return isTold
      ? 'The spot is live again.'
      : 'The spot is live here. It takes sign-ups again once Ask Box is reached, which happens by itself.'
  return isTold
    ? `The spot is ${state}: its code takes no ${state === 'paused' ? 'sign-ups for now' : 'more sign-ups'}, and tells visitors so.`
    : `The spot is ${state} here, but Ask Box is not reached: its code still takes sign-ups until then, and is closed by itself.`
}
