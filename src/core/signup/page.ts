import type { Spot } from '#core/spot'

/**
 * The page somebody signed up on. Browsers name only the origin to another site by default (Referrer Policy,
 * `strict-origin-when-cross-origin`), so where that is all they say and the spot's page is of the same
 * origin, the spot's page it is. Empty when neither is known; never anything but a web address.
 */
export function pageOf(referer: string | null, spot: Spot): string {
  const reported = webAddress(referer ?? '')
  if (reported === null) return ''
  if (reported.pathname !== '/' || reported.search !== '') return reported.href
  const ofSpot = webAddress(spot.page)
  return ofSpot?.origin === reported.origin ? ofSpot.href : reported.href
}

function webAddress(text: string): URL | null {
  if (text === '' || text.length > 2000) return null
  try {
    const url = new URL(text)
    return url.protocol === 'https:' || url.protocol === 'http:' ? url : null
  } catch {
    return null
  }
}
