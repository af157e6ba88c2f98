import { now } from '../clock'

/** The end of a local day, in milliseconds since 1970: what ends with its last day. */
export function endOfDay(day: Date): number {
  return new Date(day.getFullYear(), day.getMonth(), day.getDate() + 1).getTime()
}

/** Days that nothing can end on any more. */
export function isPast(day: Date): boolean {
  return endOfDay(day) <= Date.parse(now())
}
