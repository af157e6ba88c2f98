import type { FormId } from '#core/ids'
import type { Spot } from '#core/spot'
import { useWorkspace } from '../data'
import { type NoticeWay, useNotices } from '../notices'
import { useSpotChanges } from './spot/spot-changes'

/** What archiving leaves open: the code of a form on a page goes on taking sign-ups, until its spots are closed. */
export function useArchiving() {
  const workspace = useWorkspace()
  const notices = useNotices()
  const { change } = useSpotChanges()

  const takingSignUps = (forms: readonly FormId[]): Spot[] =>
    forms
      .filter((form) => workspace.latestVersion(form) !== null)
      .flatMap((form) => workspace.spotsOf(form))
      .filter(({ state }) => state === 'live')

  const openWords = (spots: readonly Spot[]): string =>
    spots.length === 0
      ? ''
      : spots.length === 1
        ? '. Its spot still takes sign-ups'
        : `. ${spots.length} spots still take sign-ups`

  async function close(spots: readonly Spot[]): Promise<void> {
    for (const spot of spots) await change(spot, { state: 'retired' })
    notices.done(
      spots.length === 1
        ? 'The spot is closed: its code tells visitors so.'
        : `${spots.length} spots are closed: their code tells visitors so.`,
      async () => {
        for (const spot of spots) await change(spot, { state: 'live' })
      },
    )
  }
  const closeWays = (spots: readonly Spot[]): NoticeWay[] =>
    spots.length === 0 ? [] : [{ words: spots.length === 1 ? 'Close it' : 'Close them', press: () => close(spots) }]
  return { takingSignUps, openWords, closeWays }
}
