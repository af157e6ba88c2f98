import type { PublishedRule } from '#core/rule'
import type * as PlaceModule from './place'

/*
 * Fetched by the visitors' script as it is served while its receiver has rules: asks which of them are for the host of this
 * page, and fetches what places forms where there is one. Where neither gets through, the page stays as it is.
 */

// Where this script was fetched; resolved there, not where it is built.
const base = new URL(/* @vite-ignore */ '.', import.meta.url).href

/**
 * Nothing was painted while there was no body, and before the next frame nothing is: what comes until then moves nothing.
 * Paint Timing would say it too late. A page that nobody has looked at yet has no frames.
 */
let isPainted = document.body !== null && !(document.hidden && performance.getEntriesByType('paint').length === 0)
if (!isPainted) requestAnimationFrame(() => (isPainted = true))

try {
  const answer = await fetch(`${base}rules/${location.host}.json`, { credentials: 'omit' })
  const { rules } = (await answer.json()) as { rules: PublishedRule[] }
  if (rules.length > 0)
    ((await import(/* @vite-ignore */ `${base}place.js`)) as typeof PlaceModule).placeForms(
      rules,
      base,
      () => isPainted,
    )
} catch {
  // A site's policy may forbid it, or the receiver be out of reach.
}
