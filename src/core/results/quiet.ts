import { dayAfter, daysFrom } from './time'

/** P(X <= k) of a Poisson distribution. */
export function poissonAtMost(k: number, mean: number): number {
  let term = Math.exp(-mean)
  let sum = term
  for (let at = 1; at <= k; at += 1) sum += term *= mean / at
  return Math.min(1, sum)
}

export type Rhythm =
  /** Too little is known of how it usually goes. */
  | { kind: 'unknown' }
  | { kind: 'usual' }
  /** So few would come by chance in one of so many such stretches. */
  | { kind: 'quiet'; days: number; usually: number; now: number; oneIn: number }

/** How far back a form's own rhythm is looked for, and how much of it has to be known. */
const LOOKED_AT_WEEKS = 8
const LEAST_WEEKS = 3
const LEAST_SIGN_UPS = 12
/** Below one in so many it is not chance. */
const RARE = 200
const STRETCHES = [3, 7] as const

/**
 * Judges whether a form has fallen quiet by its own rhythm: the last three and the last seven days are held against the same
 * days of the weeks before, so that a form to which nobody comes at weekends is not called quiet on Monday. Sign-ups as a
 * Poisson process with a rate for each day of the week; and no stretch of the same days before had as few, because
 * sign-ups come in crowds as well, and some places every second week.
 *
 * @param perDay sign-ups by day; days without any may be missing
 * @param first the day of the first sign-up ever
 * @param today is not over and not counted
 */
export function rhythmOf(perDay: ReadonlyMap<string, number>, first: string | null, today: string): Rhythm {
  if (first === null) return { kind: 'unknown' }
  const last = dayAfter(today, -1)
  const stretch = (end: string, days: number) =>
    daysFrom(dayAfter(end, 1 - days), end).reduce((all, day) => all + (perDay.get(day) ?? 0), 0)
  let found: Rhythm = { kind: 'unknown' }
  for (const days of STRETCHES) {
    const before: number[] = []
    let known = 0
    for (let week = 1; week <= LOOKED_AT_WEEKS; week += 1) {
      const end = dayAfter(last, -7 * week)
      if (dayAfter(end, -6) < first) break
      before.push(stretch(end, days))
      known += stretch(end, 7)
    }
    if (before.length < LEAST_WEEKS || known < LEAST_SIGN_UPS) continue
    const usually = before.reduce((sum, count) => sum + count, 0) / before.length
    const now = stretch(last, days)
    const chance = poissonAtMost(now, usually)
    if (chance < 1 / RARE && before.every((count) => count > now))
      return { kind: 'quiet', days, usually, now, oneIn: Math.round(1 / chance) }
    found = { kind: 'usual' }
  }
  return found
}

/** “usually 9 in 3 days, now 0: less likely than 1 in 200”. */
export function quietWords({ days, usually, now }: Extract<Rhythm, { kind: 'quiet' }>): string {
  return `usually ${Math.round(usually)} in ${days} days, now ${now}: less likely than 1 in ${RARE}`
}

/**
 * How the last seven days were beside the weeks before: “as in most weeks”, “more than in most weeks”, “fewer than in most
 * weeks”; empty where too few weeks are known.
 *
 * @param today is not over and not counted
 */
export function weekWords(perDay: ReadonlyMap<string, number>, first: string | null, today: string): string {
  if (first === null) return ''
  const week = (end: string) => daysFrom(dayAfter(end, -6), end).reduce((all, day) => all + (perDay.get(day) ?? 0), 0)
  const last = dayAfter(today, -1)
  const now = week(last)
  const before: number[] = []
  for (let end = dayAfter(last, -7); dayAfter(end, -6) >= first && before.length < 8; end = dayAfter(end, -7))
    before.push(week(end))
  if (before.length < 3) return ''
  const [lower, higher] = [before.filter((one) => one < now).length, before.filter((one) => one > now).length]
  if (lower > before.length * 0.8) return 'more than in most weeks'
  if (higher > before.length * 0.8) return 'fewer than in most weeks'
  return 'as in most weeks'
}
