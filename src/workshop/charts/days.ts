const short = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })
/** “29 Nov”, of a day such as 2026-11-29. */
export const shortDay = (day: string): string => short.format(new Date(`${day}T00:00:00Z`))

const ofYear = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' })
/** “Nov 2026”, of a month such as 2026-11. */
export const shortMonth = (month: string): string => ofYear.format(new Date(`${month}-01T00:00:00Z`))

const withYear = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' })
/** “1 Oct – 29 Nov 2026”. */
export const shownPeriod = (from: string, to: string): string =>
  withYear.formatRange(new Date(`${from}T00:00:00Z`), new Date(`${to}T00:00:00Z`))
