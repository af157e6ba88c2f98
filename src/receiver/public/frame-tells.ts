import type { FrameTells } from '#core/render'
import { addressProblem } from '#core/site'
import type { Spot } from '#core/spot'
import type { Ledger } from '../ledger'

/** Target of a framed page's messages: the site of its spot, where that has an address. */
export function frameTells(ledger: Ledger, receiver: string, spot: Spot, outcome?: string): FrameTells | null {
  const { address = '' } = ledger.published().site(spot.site) ?? {}
  if (addressProblem(address) !== null) return null
  return { receiver, spot: spot.id, origin: new URL(address.trim()).origin, ...(outcome !== undefined && { outcome }) }
}
