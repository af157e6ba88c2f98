import { computed } from 'vue'
import type { FormId } from '#core/ids'
import type { Proof } from '#core/proof'
import { localTime } from '#core/results'
import { spotName } from '#core/spot'
import { database, useLive, useWorkspace } from '../data'
import { HERE } from './rhythm'
import type { Period } from './period'

/** What happened on a day that may tell why numbers changed. */
export interface ResultEvent {
  day: string
  text: string
}

/** Versions that were published, and rehearsals that failed, in the order of time. */
export function useEvents(period: () => Period, form: () => FormId | null) {
  const workspace = useWorkspace()
  const proofs = useLive(() => database.proofs.toArray(), [] as Proof[])
  const dayOf = (iso: string) => localTime(Date.parse(iso), HERE).day
  return computed((): ResultEvent[] => {
    const only = form()
    const { from, to } = period()
    const forms = workspace.forms.filter(({ id }) => only === null || id === only)
    const published = forms.flatMap(({ id, name }) =>
      workspace.versionsOf(id).map(({ number, publishedAt }) => ({
        day: dayOf(publishedAt),
        text: only === null ? `“${name}” published, version ${number}` : `version ${number} published`,
      })),
    )
    const failed = proofs.value
      .filter(({ verdict }) => verdict === 'failed')
      .flatMap(({ at, spot: id }) => {
        const spot = workspace.spot(id)
        if (spot === null || (only !== null && spot.form !== only)) return []
        return [{ day: dayOf(at), text: `${spotName(spot, workspace.sites)} failed its rehearsal` }]
      })
    return [...published, ...failed]
      .filter(({ day }) => day >= from && day <= to)
      .toSorted((one, other) => (one.day < other.day ? -1 : 1))
  })
}
