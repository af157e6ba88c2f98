import type { HandOverStanding } from '#core/api'
import type { ListId } from '#core/ids'
import type { Onward } from '#core/line'
import { useWorkspace } from '../data'
import { useOutside } from './outside'

function refusedAt(standing: HandOverStanding | null): Pick<Onward, 'refused'> {
  return standing === null || standing.refusedAt === null
    ? {}
    : { refused: { at: new Date(standing.refusedAt).toISOString(), count: standing.refused } }
}

/** Where a list goes on to, and what keeps it from that. */
export function useOnward() {
  const workspace = useWorkspace()
  const outside = useOutside()
  return {
    of: (list: ListId): Onward[] =>
      workspace.handOversOf(list).flatMap((handOver) => {
        const connection = workspace.connection(handOver.connection)
        if (connection === null) return []
        return [
          {
            name: handOver.target?.name ?? connection.name,
            isPaused: handOver.isPaused,
            trouble: outside.trouble(handOver),
            ...refusedAt(outside.handOver(handOver.id)),
          },
        ]
      }),
  }
}
