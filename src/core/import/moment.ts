/** How the numbers of a date are to be read. */
export const dateReadings = [
  'day-month-year',
  'month-day-year',
  'year-month-day',
  'spreadsheet-days',
  'unix-seconds',
  'unix-milliseconds',
  /** The row is taken without it. */
  'left-out',
] as const
export type DateReading = (typeof dateReadings)[number]

/** A date taken apart; which of its numbers is which is not said yet. */
interface Parts {
  /** The first three numbers, in their order; a month by its name as its number. */
  numbers: readonly [string, string, string]
  /** Where the month's name stood; -1 where it has none. */
  namedAt: number
  hours: number
  minutes: number
  seconds: number
  /** Minutes east of UTC; 0 where none is said. */
  offset: number
}

/**
 * A spelling of dates, such as `n/n/n` for “5/6/21”: dates of one spelling are read alike. Null for what is no date in any
 * reading.
 */
export function spellingOf(cell: string): string | null {
  const text = cell.trim()
  if (/^\d{5}(?:\.\d+)?$/.test(text)) return 'n, days'
  if (/^\d{10}$/.test(text)) return 'n, seconds'
  if (/^\d{13}$/.test(text)) return 'n, milliseconds'
  const parts = partsIn(text)
  if (parts === null) return null
  const { numbers, namedAt } = parts
  const separator = namedAt >= 0 ? ' ' : (/[./-]|\s/.exec(text.replace(/^\d+/, ''))?.[0] ?? '-')
  return numbers.map((number, at) => (at === namedAt ? 'month' : number.length > 2 ? 'year' : 'n')).join(separator)
}

/** The only possible reading of a spelling; null where there are several, which the owner decides. */
export function readingOfSpelling(
  spelling: string,
  { firstOver12, secondOver12 }: { firstOver12: boolean; secondOver12: boolean },
): DateReading | null {
  if (spelling === 'n, days') return 'spreadsheet-days'
  if (spelling === 'n, seconds') return 'unix-seconds'
  if (spelling === 'n, milliseconds') return 'unix-milliseconds'
  // The name tells which is which: see `dateIn`.
  if (spelling.includes('month')) return 'day-month-year'
  if (spelling.startsWith('year')) return 'year-month-day'
  if (firstOver12 !== secondOver12) return firstOver12 ? 'day-month-year' : 'month-day-year'
  if (firstOver12) return null
  // With full stops the day comes first wherever they are written: common practice, no published source.
  return spelling === 'n.n.year' ? 'day-month-year' : null
}

/** First two numbers of a date as written: one above 12 is the day. */
export function leadingNumbers(cell: string): [number, number] | null {
  const parts = partsIn(cell.trim())
  return parts === null ? null : [Number(parts.numbers[0]), Number(parts.numbers[1])]
}

/**
 * A moment as files write it, as ISO 8601 in UTC: numbers or names of months (in the ten languages), with or without a time
 * and a zone. What says no zone is taken as UTC. Null for what is none in this reading.
 */
export function momentIn(cell: string, reading: DateReading): string | null {
  const text = cell.trim()
  switch (reading) {
    case 'left-out':
      return null
    case 'spreadsheet-days':
      // Day 25,569 is 1 January 1970: ECMA-376, part 1, section 18.17.4.1 (the date base of 1900).
      return /^\d{5}(?:\.\d+)?$/.test(text) ? isoOf(Math.round((Number(text) - 25_569) * 86_400) * 1000) : null
    case 'unix-seconds':
      return /^\d{10}$/.test(text) ? isoOf(Number(text) * 1000) : null
    case 'unix-milliseconds':
      return /^\d{13}$/.test(text) ? isoOf(Number(text)) : null
    default:
      return dateIn(text, reading)
  }
}

/** Whether a cell says that there is no date, as databases do. */
export const isNoDate = (cell: string) => /^0{4}-0{2}-0{2}/.test(cell.trim())

function dateIn(text: string, reading: 'day-month-year' | 'month-day-year' | 'year-month-day') {
  const parts = partsIn(text)
  if (parts === null) return null
  const { numbers, namedAt, hours, minutes, seconds, offset } = parts
  const [one, two, three] = numbers
  const order =
    namedAt === 0 ? 'month-day-year' : one.length === 4 ? 'year-month-day' : namedAt === 1 ? 'day-month-year' : reading
  const [year, month, day] =
    order === 'year-month-day' ? [one, two, three] : order === 'month-day-year' ? [three, one, two] : [three, two, one]
  const y = yearOf(year)
  const [m, d] = [Number(month), Number(day)]
  if (y === null || m < 1 || m > 12 || d < 1 || d > daysIn(y, m) || hours > 23 || minutes > 59 || seconds > 59)
    return null
  const at = new Date(0)
  at.setUTCFullYear(y, m - 1, d)
  at.setUTCHours(hours, minutes - offset, seconds)
  return isoOf(at.getTime())
}

function isoOf(time: number): string | null {
  const iso = Number.isFinite(time) && Math.abs(time) < 8.64e15 ? new Date(time).toISOString() : ''
  return /^\d{4}-/.test(iso) ? iso : null
}

/** Two digits as POSIX's `%y` reads them: 69 to 99 are 1969 to 1999, 00 to 68 are 2000 to 2068. */
function yearOf(digits: string): number | null {
  const year = Number(digits)
  if (digits.length <= 2) return year < 69 ? 2000 + year : 1900 + year
  return digits.length === 4 && year > 0 ? year : null
}

function daysIn(year: number, month: number): number {
  const isLeap = (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0
  return month === 2 ? (isLeap ? 29 : 28) : [4, 6, 9, 11].includes(month) ? 30 : 31
}

const LONGEST = 60
const CLOCK = /(?:^|[\sT,])(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d{1,9})?)?\s*(am|pm|a\.m\.|p\.m\.)?/i
const ZONE = /(?:(?:UTC|GMT)? ?([+-])(\d{2}):?(\d{2})|UTC|GMT|Z)$/i

function partsIn(text: string): Parts | null {
  if (text.length > LONGEST || !/\d/.test(text)) return null
  let rest = text
  let [hours, minutes, seconds, offset] = [0, 0, 0, 0]
  const clock = CLOCK.exec(rest)
  if (clock !== null) {
    const zone = ZONE.exec(rest)
    if (zone !== null && zone.index >= clock.index + clock[0].length - 1) {
      if (zone[1] !== undefined) offset = (zone[1] === '-' ? -1 : 1) * (Number(zone[2]) * 60 + Number(zone[3]))
      rest = rest.slice(0, zone.index)
    }
    hours = Number(clock[1])
    minutes = Number(clock[2])
    seconds = Number(clock[3] ?? 0)
    if (clock[4] !== undefined) {
      if (hours < 1 || hours > 12) return null
      hours = (hours % 12) + (/^p/i.test(clock[4]) ? 12 : 0)
    }
    rest = rest.slice(0, clock.index) + rest.slice(clock.index + clock[0].length)
  }
  // Days of the week before a comma, “of” and “de”, and what stands behind ordinal numbers say nothing more.
  rest = rest
    .replace(/^\s*\p{L}+\.?,\s*/u, (word) => (monthOf(word.replace(/[.,\s]/g, '')) === null ? '' : word))
    .replace(/(\d)(?:st|nd|rd|th|er|º|ª|日)(?=\W|$)/gi, '$1')
    .replace(/[年月]/g, '/')
    .replace(/(^|\s)(?:of|de|del|di)(?=\s)/gi, ' ')
    .trim()
  const match = /^(\d{1,4}|\p{L}+)\.?[\s./,-]+(\d{1,2}|\p{L}+)\.?[\s./,-]+(\d{1,4})\/?\s*,?$/u.exec(rest)
  if (match === null) return null
  const texts = [match[1]!, match[2]!, match[3]!]
  const namedAt = texts.findIndex((part) => !/^\d/.test(part))
  const named = namedAt < 0 ? null : monthOf(texts[namedAt]!)
  if (namedAt >= 0 && named === null) return null
  const numbers = texts.map((part, at) => (at === namedAt ? String(named) : part)) as [string, string, string]
  if (!numbers.every((number) => /^\d+$/.test(number)) || numbers.some(({ length }) => length === 3)) return null
  return { numbers, namedAt, hours, minutes, seconds, offset }
}

/** Names of months and what they are shortened to, as CLDR has them, in the ten languages; those in Japanese are numbers. */
let monthNames: ReadonlyMap<string, number> | null = null

function monthOf(name: string): number | null {
  // Made when the first is met: it takes some four hundred formats.
  monthNames ??= namesOfMonths()
  return monthNames.get(lettersIn(name)) ?? null
}

function namesOfMonths(): Map<string, number> {
  const names = new Map<string, number>()
  for (const language of ['en', 'de', 'fr', 'es', 'pt', 'it', 'nl', 'pl', 'ar'])
    for (const month of ['long', 'short'] as const)
      for (let at = 0; at < 12; at += 1) {
        const day = new Date(Date.UTC(2025, at, 5))
        for (const parts of [{ month }, { month, day: 'numeric' as const }]) {
          const format = new Intl.DateTimeFormat(language, { ...parts, timeZone: 'UTC', numberingSystem: 'latn' })
          const name = format.formatToParts(day).find(({ type }) => type === 'month')?.value ?? ''
          const letters = lettersIn(name)
          if (letters !== '' && !names.has(letters)) names.set(letters, at + 1)
        }
      }
  return names
}

function lettersIn(name: string): string {
  return name.toLowerCase().replace(/[^\p{L}]/gu, '')
}
