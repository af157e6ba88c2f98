import { type WayBack, wayBackTo } from '#core/render'
import type { Spot } from '#core/spot'
import type { Ledger } from '../ledger'

/** Back to the spot's own page, or to its site. */
export function wayBack(ledger: Ledger, spot: Spot): WayBack | null {
  const site = ledger.published().site(spot.site)
  return site === undefined ? null : wayBackTo(site, spot.page)
}
