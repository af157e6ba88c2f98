/** Which way round a day and a month are written. */
export const dayOrders = ['day-month', 'month-day'] as const
export type DayOrder = (typeof dayOrders)[number]

/**
 * A moment as files write it, as ISO 8601 in UTC: ISO 8601 itself, or day, month and year with dots, slashes or dashes, and
 * a time where there is one. What says no zone is taken as UTC. Null for what is none.
 */
export function momentIn(text: string, order: DayOrder): string | null {
  const cell = text.trim()
  if (/^\d{4}-\d{2}-\d{2}/.test(cell)) {
    const iso = cell.replace(/^(\d{4}-\d{2}-\d{2})\s+/, '$1T').replace(/ ?(?:UTC|GMT)$/i, 'Z')
    if (iso.length === 10) return sound(iso, `${iso}T00:00:00Z`)
    return sound(iso, /(?:Z|[+-]\d{2}:?\d{2})$/i.test(iso) ? iso : `${iso}Z`)
  }
  const parts = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/.exec(cell)
  if (parts === null) return null
  const [, one = '', other = '', year = '', hours = '0', minutes = '00', seconds = '00'] = parts
  const [day, month] = order === 'day-month' ? [one, other] : [other, one]
  const date = `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
  return sound(date, `${date}T${hours.padStart(2, '0')}:${minutes}:${seconds}Z`)
}

/** No 30th of February: `Date` would take it for March. */
function sound(date: string, iso: string): string | null {
  const at = Date.parse(iso)
  if (Number.isNaN(at)) return null
  const day = date.slice(0, 10)
  return new Date(`${day}T00:00:00Z`).toISOString().startsWith(day) ? new Date(at).toISOString() : null
}

/** Which way round a column's days are written, by those that can only be read one way. */
export function dayOrderOf(cells: readonly string[]): DayOrder {
  const pairs = cells.flatMap((cell) => {
    const parts = /^(\d{1,2})[./-](\d{1,2})[./-]\d{4}/.exec(cell.trim())
    return parts === null ? [] : [[Number(parts[1]), Number(parts[2])] as const]
  })
  return pairs.some(([, second]) => second > 12) && !pairs.some(([first]) => first > 12) ? 'month-day' : 'day-month'
}
