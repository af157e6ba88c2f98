/** Which way round a day and a month are written. */
export const dayOrders = ['day-month', 'month-day'] as const
export type DayOrder = (typeof dayOrders)[number]

/**
 * A moment as files write it, as ISO 8601 in UTC: ISO 8601 itself, or day, month and year with dots, slashes or dashes, and
 * a time where there is one. What says no zone is taken as UTC. Null for what is none.
 */
export function momentIn(text: string, order: DayOrder): string | null {
  const cell = text.trim()
  const iso = ISO.exec(cell)
  if (iso !== null) {
    const [, year = '', month = '', day = '', hours = '00', minutes = '00', seconds = '00', fraction, zone = 'Z'] = iso
    if (fraction === undefined && /^(?:Z|UTC|GMT)$/i.test(zone))
      return momentOf(year, month, day, hours, minutes, seconds)
    // What is written with a zone of its own, or with fractions of seconds, `Date` computes.
    if (momentOf(year, month, day, hours, minutes, seconds) === null) return null
    const at = Date.parse(
      `${year}-${month}-${day}T${hours}:${minutes}:${seconds}${fraction ?? ''}${/^[+-]/.test(zone) ? zone : 'Z'}`,
    )
    return Number.isNaN(at) ? null : new Date(at).toISOString()
  }
  const parts = DAY_FIRST.exec(cell)
  if (parts === null) return null
  const [, one = '', other = '', year = '', hours = '00', minutes = '00', seconds = '00'] = parts
  const [day, month] = order === 'day-month' ? [one, other] : [other, one]
  return momentOf(year, month, day, hours, minutes, seconds)
}

const ISO = /^(\d{4})-(\d{2})-(\d{2})(?:[T ](\d{2}):(\d{2})(?::(\d{2})(\.\d+)?)?)? ?(Z|UTC|GMT|[+-]\d{2}:?\d{2})?$/i
const DAY_FIRST = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})(?:[ ,T]+(\d{1,2}):(\d{2})(?::(\d{2}))?)?$/
const DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31]

/** In UTC; null for what no calendar or clock has. Without `Date`, which takes as long as the rest of a row. */
function momentOf(
  year: string,
  month: string,
  day: string,
  hours: string,
  minutes: string,
  seconds: string,
): string | null {
  const [y, m, d] = [Number(year), Number(month), Number(day)]
  const isLeap = (y % 4 === 0 && y % 100 !== 0) || y % 400 === 0
  const days = m === 2 && isLeap ? 29 : (DAYS[m - 1] ?? 0)
  if (y < 1 || d < 1 || d > days || Number(hours) > 23 || Number(minutes) > 59 || Number(seconds) > 59) return null
  return `${year}-${two(month)}-${two(day)}T${two(hours)}:${two(minutes)}:${two(seconds)}.000Z`
}

const two = (digits: string) => (digits.length < 2 ? `0${digits}` : digits)

/** Which way round a column's days are written, by those that can only be read one way. */
export function dayOrderOf(cells: readonly string[]): DayOrder {
  const pairs = cells.flatMap((cell) => {
    const parts = /^(\d{1,2})[./-](\d{1,2})[./-]\d{4}/.exec(cell.trim())
    return parts === null ? [] : [[Number(parts[1]), Number(parts[2])] as const]
  })
  return pairs.some(([, second]) => second > 12) && !pairs.some(([first]) => first > 12) ? 'month-day' : 'day-month'
}
