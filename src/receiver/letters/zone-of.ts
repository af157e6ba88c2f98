import type { Member } from '#core/list'
import { isZone } from '#core/zone'
import type { Published } from '../objects'

/** Time zone of somebody: as their browser told it, else that of the site that they joined on; undefined where neither is known. */
export function zoneOf(
  published: Pick<Published, 'spot' | 'site'>,
  { from }: Pick<Member, 'from'>,
): string | undefined {
  if (from === null) return undefined
  if (from.zone !== undefined && isZone(from.zone)) return from.zone
  const spot = published.spot(from.spot)
  const zone = spot === undefined ? undefined : published.site(spot.site)?.zone
  return zone !== undefined && isZone(zone) ? zone : undefined
}
