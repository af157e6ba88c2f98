import { computed } from 'vue'
import type { ListId } from '#core/ids'
import { dayAfter, daysFrom, growthDays, type GrowthRow, growthSpans, localTime } from '#core/results'
import { useAsked, useMembers } from '../people'

/** How a list grew, from its beginning; null until that is counted. It follows what happens. */
export function useGrowth(list: () => ListId) {
  const members = useMembers()
  const rows = useAsked([list, () => members.changes], () => members.ask('growth', list()))
  return { rows, days: computed(() => growthDays(rows.value ?? [])) }
}

const WEEK_DAYS = 7

/** Who came in the last seven days: a count a day, and in words. @param rows a list's growth, null until it is counted */
export function weekOf(rows: readonly GrowthRow[] | null): { counts: number[]; words: string } {
  const today = localTime(Date.now(), Intl.DateTimeFormat().resolvedOptions().timeZone).day
  const days = daysFrom(dayAfter(today, 1 - WEEK_DAYS), today)
  const counts = growthSpans(rows ?? [], days).map(({ came }) => came)
  const sum = counts.reduce((all, one) => all + one, 0)
  return { counts, words: rows === null ? 'Counting …' : `${sum === 0 ? 'Nobody' : sum} came in 7 days` }
}
