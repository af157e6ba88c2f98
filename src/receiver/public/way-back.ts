import type { WayBack } from '#core/render'
import { addressProblem } from '#core/site'
import type { Spot } from '#core/spot'
import type { Ledger } from '../ledger'

/** Back to the spot's own page, or to its site. */
export function wayBack(ledger: Ledger, spot: Spot): WayBack | null {
  const site = ledger.published().site(spot.site)
  if (site === undefined) return null
  const address = addressProblem(spot.page) === null ? spot.page : site.address
  return addressProblem(address) === null ? { name: site.name, address: new URL(address.trim()).href } : null
}
