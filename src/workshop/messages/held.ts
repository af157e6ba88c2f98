import { computed, type ComputedRef } from 'vue'
import type { FormId } from '#core/ids'
import { database, useLive } from '../data'

/** How many messages are held back, by form. */
export function useHeldMessages(): ComputedRef<ReadonlyMap<FormId, number>> {
  const rows = useLive(
    async () => (await database.messages.where('held').equals(1).toArray()).map(({ form }) => form),
    [] as FormId[],
  )
  return computed(() => {
    const counts = new Map<FormId, number>()
    for (const form of rows.value) counts.set(form, (counts.get(form) ?? 0) + 1)
    return counts
  })
}

/** How many messages a form has here; null until that is known. */
export function useMessageCount(form: () => FormId) {
  return useLive(() => database.messages.where('form').equals(form()).count(), null as number | null, [form])
}
