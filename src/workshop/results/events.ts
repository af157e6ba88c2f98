import { computed, shallowRef } from 'vue'
import type { FormId } from '#core/ids'
import { type Sending, titleOf } from '#core/letter'
import type { Proof } from '#core/proof'
import { localTime } from '#core/results'
import { codeOf, isPastedAgain } from '#core/embed'
import { type Spot, spotName } from '#core/spot'
import { clientFor } from '../client'
import { database, useLive, useWorkspace } from '../data'
import { useReceiver } from '../sync'
import { HERE } from './rhythm'
import type { Period } from './period'

const stateWords: Record<Spot['state'], string> = {
  live: 'opened again',
  paused: 'paused',
  retired: 'closed for good',
}

/** What happened on a day that may tell why numbers changed. */
export interface ResultEvent {
  day: string
  text: string
  /** In a word or two, as it stands in a chart. */
  short: string
}

/** Versions that were published or came into use where they are pasted, spots paused, trials, rehearsals that failed; in the order of time. */
export function useEvents(
  period: () => Period,
  form: () => FormId | null,
  /** By spot, the day on which each version first brought somebody. */
  firstUse: () => ReadonlyMap<string, ReadonlyMap<number, string>>,
) {
  const workspace = useWorkspace()
  const proofs = useLive(() => database.proofs.toArray(), [] as Proof[])
  const dayOf = (iso: string) => localTime(Date.parse(iso), HERE).day
  const sendings = shallowRef<readonly Sending[]>([])
  const receiver = useReceiver()
  if (receiver.pairing !== null)
    void clientFor({ ...receiver.pairing })
      .sendings()
      .then((answer) => (sendings.value = answer.sendings))
      .catch(() => undefined)
  return computed((): ResultEvent[] => {
    const only = form()
    const { from, to } = period()
    const forms = workspace.forms.filter(({ id }) => only === null || id === only)
    const published = forms.flatMap(({ id, name }) =>
      workspace.versionsOf(id).map(({ number, publishedAt }) => ({
        day: dayOf(publishedAt),
        short: 'published',
        text: only === null ? `“${name}” published, version ${number}` : `version ${number} published`,
      })),
    )
    const spots = workspace.spots.filter(({ form: of }) => only === null || of === only)
    const nameOf = (spot: Spot) => spotName(spot, workspace.sites)
    const states = spots.flatMap((spot) =>
      spot.stateAt === undefined
        ? []
        : [
            {
              day: dayOf(spot.stateAt),
              text: `${nameOf(spot)} ${stateWords[spot.state]}`,
              short: stateWords[spot.state],
            },
          ],
    )
    const pasted = spots
      .filter((spot) => isPastedAgain(codeOf(spot, workspace.site(spot.site))))
      .flatMap((spot) =>
        [...(firstUse().get(spot.id) ?? [])].map(([version, day]) => ({
          day,
          short: 'new code in use',
          text: `code of version ${version} in use: ${nameOf(spot)}`,
        })),
      )
    const trials = workspace.trials
      .filter(({ form: of }) => only === null || of === only)
      .flatMap(({ spot: id, startedAt, ended }) => {
        const spot = workspace.spot(id)
        const at = spot === null ? '' : `: ${nameOf(spot)}`
        return [
          { day: dayOf(startedAt), text: `trial of wordings begun${at}`, short: 'trial begun' },
          ...(ended === undefined
            ? []
            : [{ day: dayOf(ended.at), text: `trial of wordings ended${at}`, short: 'trial ended' }]),
        ]
      })
    const failed = proofs.value
      .filter(({ verdict }) => verdict === 'failed')
      .flatMap(({ at, spot: id }) => {
        const spot = workspace.spot(id)
        if (spot === null || (only !== null && spot.form !== only)) return []
        return [
          {
            day: dayOf(at),
            text: `${spotName(spot, workspace.sites)} failed its rehearsal`,
            short: 'rehearsal failed',
          },
        ]
      })
    const lists = new Set(forms.map(({ list }) => list))
    const letters = sendings.value
      .filter(
        ({ source, counts, content }) =>
          source.kind !== 'series' && counts.sent > 0 && content.lists.some((list) => lists.has(list)),
      )
      .map((one) => ({
        day: dayOf(new Date(one.startsAt).toISOString()),
        text: `letter sent: “${titleOf(one.content, workspace.list(one.content.lists[0]!)?.name ?? '')}”`,
        short: 'letter',
      }))
    return [...published, ...pasted, ...states, ...trials, ...failed, ...letters]
      .filter(({ day }) => day >= from && day <= to)
      .toSorted((one, other) => (one.day < other.day ? -1 : 1))
  })
}
