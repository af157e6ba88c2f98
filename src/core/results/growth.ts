import type { GrowthRow } from './people'
import { daysFrom } from './time'

/** A day or a month of growth. */
export interface GrowthSpan {
  /** Such as 2026-11-29, or 2026-11. */
  span: string
  came: number
  /** Of these, by a file or by hand. */
  brought: number
  left: number
  /** On the lists at its end, of all that the rows tell. */
  total: number
}

/** Of more days, months are told. */
const MOST_DAYS = 62

/** Whether growth over so many days is told by the month. */
export const isByMonth = (days: readonly string[]): boolean => days.length > MOST_DAYS

/** Growth by day or month, quiet ones too. Rows of before the first day are in its total. */
export function growthSpans(
  rows: readonly GrowthRow[],
  days: readonly string[],
  byMonth = isByMonth(days),
): GrowthSpan[] {
  const spanOf = (day: string) => (byMonth ? day.slice(0, 7) : day)
  const spans = new Map(days.map((day) => [spanOf(day), { came: 0, brought: 0, left: 0 }]))
  const first = days[0] ?? ''
  let total = 0
  for (const { day, came, brought, left } of rows)
    if (day < first) total += came - left
    else {
      const span = spans.get(spanOf(day))
      if (span === undefined) continue
      span.came += came
      span.brought += brought
      span.left += left
    }
  return [...spans].map(([span, sums]) => ({ span, ...sums, total: (total += sums.came - sums.left) }))
}

/** All days on which the rows tell of anybody, and those between. */
export function growthDays(rows: readonly GrowthRow[]): string[] {
  const days = rows.map(({ day }) => day).toSorted()
  return days.length === 0 ? [] : daysFrom(days[0]!, days.at(-1)!)
}
