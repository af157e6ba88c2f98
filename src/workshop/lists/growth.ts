import { computed, shallowRef, watch } from 'vue'
import type { ListId } from '#core/ids'
import { growthDays, type GrowthRow } from '#core/results'
import { useMembers } from '../people'

/** How a list grew, from its beginning; null until that is counted. It follows what happens. */
export function useGrowth(list: () => ListId) {
  const members = useMembers()
  const rows = shallowRef<readonly GrowthRow[] | null>(null)
  let asked = 0
  watch(
    [list, () => members.changes],
    async () => {
      const mine = (asked += 1)
      const all = await members.ask('growth', list())
      if (mine === asked) rows.value = all
    },
    { immediate: true },
  )
  return { rows, days: computed(() => growthDays(rows.value ?? [])) }
}
