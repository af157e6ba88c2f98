import { shallowReactive } from 'vue'
import type { Spot } from '#core/spot'
import { proofsOf } from '../data'
import type { NoticeWay } from '../notices'
import { useReceiver } from '../sync'
import { useRehearsal } from './store'

/** What was put right in this tab since, by the id of a spot or a connection. */
const mends = shallowReactive(new Map<string, { at: string; what: string }>())

export function noteMended(about: string, what: string): void {
  mends.set(about, { at: new Date().toISOString(), what })
}

/** What was put right after a moment, of any of these; null for nothing. */
export function mendedSince(moment: string, about: readonly string[]): string | null {
  const one = about.flatMap((id) => mends.get(id) ?? []).find(({ at }) => at > moment)
  return one?.what ?? null
}

/** Offers a new rehearsal where something was put right that the last one failed on. */
export function useRehearseAgain() {
  const rehearsal = useRehearsal()
  const receiver = useReceiver()
  return {
    async offer(spots: readonly Spot[]): Promise<NoticeWay[]> {
      const ready = rehearsal.rehearsable(spots)
      const proofs = await proofsOf(ready)
      const failed = ready.filter((id) => proofs.find((proof) => proof.spot === id)?.verdict === 'failed')
      return failed.length === 0 || receiver.looksOn
        ? []
        : [{ words: 'Rehearse again', press: () => rehearsal.start(failed) }]
    },
  }
}
