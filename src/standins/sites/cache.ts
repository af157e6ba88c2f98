/** What a site's cache keeps of its pages: visitors are shown it until its time is over or its owner clears it. */
export interface Cached<Pages> {
  cached: Pages
  /** Milliseconds since 1970. */
  cachedUntil: number
}

/** What visitors are shown now: what the cache keeps, or what stands there. */
export function shownNow<Pages>({ cached, cachedUntil }: Cached<Pages>, pages: Pages, now: number): Pages {
  return now < cachedUntil ? cached : pages
}

/** Before a change is saved: visitors go on seeing what they see now, for so many minutes. */
export function keepShown<Pages extends object>(kept: Cached<Pages>, pages: Pages, minutes: number, now: number): void {
  if (minutes === 0) return
  if (now >= kept.cachedUntil) kept.cached = { ...pages }
  kept.cachedUntil = now + minutes * 60_000
}

/** How long the cache has kept what visitors are shown, in seconds; null where nothing comes from it. */
export function ageOf({ cachedUntil }: Cached<unknown>, minutes: number, now: number): number | null {
  return now < cachedUntil ? Math.max(1, Math.round((minutes * 60_000 - (cachedUntil - now)) / 1000)) : null
}
