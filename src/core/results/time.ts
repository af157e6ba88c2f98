/** A time as the clocks of a place show it. */
export interface LocalTime {
  /** Such as 2026-03-29. */
  day: string
  /** 0 to 23. */
  hour: number
}

const HOUR_MS = 3_600_000
const formats = new Map<string, Intl.DateTimeFormat>()
/** By zone, by quarter of an hour: what its clocks show then. Offsets change at quarters at most (IANA time zone database). */
const known = new Map<string, Map<number, LocalTime>>()
const QUARTER_MS = HOUR_MS / 4
const MOST_KNOWN = 200_000

/** @param zone as the IANA database names it; any other is taken for UTC */
export function localTime(ms: number, zone: string): LocalTime {
  const quarter = Math.floor(ms / QUARTER_MS)
  let ofZone = known.get(zone)
  if (ofZone === undefined || ofZone.size > MOST_KNOWN) known.set(zone, (ofZone = new Map()))
  let time = ofZone.get(quarter)
  if (time === undefined) ofZone.set(quarter, (time = computed(quarter * QUARTER_MS, zone)))
  return time
}

function computed(ms: number, zone: string): LocalTime {
  const parts: Record<string, string> = {}
  for (const { type, value } of formatOf(zone).formatToParts(ms)) parts[type] = value
  return { day: `${parts.year}-${parts.month}-${parts.day}`, hour: Number(parts.hour) % 24 }
}

function formatOf(zone: string): Intl.DateTimeFormat {
  const made = formats.get(zone)
  if (made !== undefined) return made
  const parts = { year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', hourCycle: 'h23' } as const
  let format: Intl.DateTimeFormat
  try {
    format = new Intl.DateTimeFormat('en-US', { ...parts, timeZone: zone })
  } catch {
    format = new Intl.DateTimeFormat('en-US', { ...parts, timeZone: 'UTC' })
  }
  formats.set(zone, format)
  return format
}

const DAY_MS = 24 * HOUR_MS
/** Days by their number since 1970: for each form the same weeks are gone through, whenever somebody signs up. */
const names = new Map<number, string>()

const numberOf = (day: string) => Date.parse(`${day}T00:00:00Z`) / DAY_MS

function dayOf(number: number): string {
  let day = names.get(number)
  if (day === undefined) names.set(number, (day = new Date(number * DAY_MS).toISOString().slice(0, 10)))
  return day
}

/** A day some days before or after another. */
export function dayAfter(day: string, days = 1): string {
  return dayOf(numberOf(day) + days)
}

/** All days from one to another, both included. */
export function daysFrom(first: string, last: string): string[] {
  const from = numberOf(first)
  return Array.from({ length: Math.max(0, numberOf(last) - from + 1) }, (_, at) => dayOf(from + at))
}

/** 0 for Monday. */
export const weekdayOf = (day: string): number => (new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7
