import { computed, type ComputedRef } from 'vue'
import type { ConnectionId, SpotId } from '#core/ids'
import { onwardStep, type Proof } from '#core/proof'
import { shownMoment } from '../controls'
import { proofsOf, useLive, useWorkspace } from '../data'
import { mendedSince } from './again'

export interface FailedConnection {
  /** When, and what happened. */
  at: string
  happened: string
  spots: SpotId[]
}

/** Connections on which the newest rehearsal of a spot failed, and that were not put right in this tab since. */
export function useFailedConnections(): ComputedRef<Map<ConnectionId, FailedConnection>> {
  const workspace = useWorkspace()
  const spots = computed(() => {
    const lists = new Set<string | undefined>(workspace.handOvers.map(({ list }) => list))
    return workspace.spots.filter(({ form }) => lists.has(workspace.form(form)?.list))
  })
  const ids = computed(() => spots.value.map(({ id }) => id))
  const proofs = useLive(() => proofsOf(ids.value), [] as Proof[], [() => ids.value.join()])
  return computed(() => {
    const found = new Map<ConnectionId, FailedConnection>()
    for (const { id, form } of spots.value) {
      const proof = proofs.value.find(({ spot }) => spot === id)
      const list = workspace.form(form)?.list
      if (proof === undefined || list === undefined) continue
      for (const { connection, target } of workspace.handOversOf(list)) {
        const name = target?.name ?? workspace.connection(connection)?.name ?? ''
        const step = proof.steps.find((one) => one.failure?.at === 'connection' && one.what === onwardStep(name))
        if (step?.failure === undefined || mendedSince(proof.at, [connection]) !== null) continue
        const before = found.get(connection)
        found.set(connection, {
          ...(before ?? { at: proof.at, happened: step.failure.happened }),
          spots: [...(before?.spots ?? []), id],
        })
      }
    }
    return found
  })
}

export const failedWords = ({ at, happened }: FailedConnection): string =>
  `A rehearsal failed here, ${shownMoment(at)}: ${happened}`
