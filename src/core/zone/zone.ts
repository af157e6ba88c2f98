/* Days and hours as clocks of a place show them, by the zones of the IANA database that the platform knows. */

const DAY_MS = 86_400_000
const formats = new Map<string, Intl.DateTimeFormat | null>()

/** Whether this machine knows a zone by its name. */
export function isZone(zone: string): boolean {
  return zone !== '' && formatOf(zone) !== null
}

/**
 * The moment at which clocks of a zone show a day and time, in milliseconds since 1970. Where they leap over it, the
 * moment after the leap by as much; where they show it twice, the first (the “compatible” disambiguation of ECMAScript's
 * Temporal proposal). A zone that is not known is UTC.
 *
 * @param day such as 2026-03-29
 * @param time such as 02:30
 */
export function momentIn(zone: string, day: string, time: string): number {
  const asUtc = Date.parse(`${day}T${time}:00Z`)
  const [before, after] = [asUtc - DAY_MS, asUtc + DAY_MS].map((at) => asUtc - offsetAt(zone, at)) as [number, number]
  if (before + offsetAt(zone, before) === asUtc) return before
  return after + offsetAt(zone, after) === asUtc ? after : before
}

/** The day that clocks of a zone show at a moment, such as 2026-03-29. */
export function dayIn(zone: string, at: number): string {
  return new Date(at + offsetAt(zone, at)).toISOString().slice(0, 10)
}

/** By how much clocks of a zone are before UTC at a moment, in milliseconds. */
function offsetAt(zone: string, at: number): number {
  const format = formatOf(zone)
  if (format === null) return 0
  const parts: Record<string, string> = {}
  for (const { type, value } of format.formatToParts(at)) parts[type] = value
  const { year, month, day, hour, minute, second } = parts
  const shown = Date.UTC(
    Number(year),
    Number(month) - 1,
    Number(day),
    Number(hour) % 24,
    Number(minute),
    Number(second),
  )
  return shown - Math.floor(at / 1000) * 1000
}

function formatOf(zone: string): Intl.DateTimeFormat | null {
  const made = formats.get(zone)
  if (made !== undefined) return made
  const two = '2-digit'
  let format: Intl.DateTimeFormat | null
  try {
    format = new Intl.DateTimeFormat('en-US', {
      ...{ year: 'numeric', month: two, day: two, hour: two, minute: two, second: two, hourCycle: 'h23' },
      timeZone: zone,
    } as Intl.DateTimeFormatOptions)
  } catch {
    format = null
  }
  // Names come from visitors' browsers too: no more are kept than there are zones.
  if (formats.size < 1_000) formats.set(zone, format)
  return format
}
