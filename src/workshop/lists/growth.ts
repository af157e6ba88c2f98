import { computed } from 'vue'
import type { ListId } from '#core/ids'
import { growthDays } from '#core/results'
import { useAsked, useMembers } from '../people'

/** How a list grew, from its beginning; null until that is counted. It follows what happens. */
export function useGrowth(list: () => ListId) {
  const members = useMembers()
  const rows = useAsked([list, () => members.changes], () => members.ask('growth', list()))
  return { rows, days: computed(() => growthDays(rows.value ?? [])) }
}
