const dayAndTime = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
})
const dayWithYear = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
})
const dayOnly = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })
const timeOnly = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' })

/** A moment for people, in their own time zone: as short as it is clear. */
export function shownMoment(iso: string, now = new Date()): string {
  const moment = new Date(iso)
  if (moment.toDateString() === now.toDateString()) return `today ${timeOnly.format(moment)}`
  return (moment.getFullYear() === now.getFullYear() ? dayAndTime : dayWithYear).format(moment)
}

/** A day as people write it: “3 May 2026”. */
export function shownDay(day: string): string {
  return dayOnly.format(new Date(`${day.slice(0, 10)}T00:00:00Z`))
}

/** A page's address as it is recognised: without the scheme, and without a slash at the end. */
export function shownPage(address: string): string {
  return address.replace(/^https?:\/\//, '').replace(/\/$/, '')
}
