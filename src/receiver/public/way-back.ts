import type { Context } from 'hono'
import { type WayBack, wayBackTo } from '#core/render'
import type { Spot } from '#core/spot'
import type { Ledger } from '../ledger'
import { isInFrame } from './onward'

/** Back to the spot's own page, or to its site. Nobody in a frame has left it, and back would show it within itself. */
export function wayBack(ledger: Ledger, spot: Spot, c: Context): WayBack | null {
  const site = isInFrame(c) ? undefined : ledger.published().site(spot.site)
  return site === undefined ? null : wayBackTo(site, spot.page)
}
