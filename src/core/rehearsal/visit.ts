import { pageAddress } from '#core/embed'
import { honeypotName } from '#core/form'
import type { Spot } from '#core/spot'
import type { VisitWish } from './ports'

/** A visit of a page for the form of one spot. */
export function visitOf(
  spot: Spot,
  receiver: string,
  wish: Pick<VisitWish, 'address' | 'size' | 'hasScripts' | 'fills' | 'presses'>,
): VisitWish {
  return {
    ...wish,
    spot: spot.id,
    action: `${receiver}/join/${spot.id}`,
    pages: [...new Set([pageAddress(receiver, spot.id), pageAddress(receiver, spot.slug ?? spot.id)])],
    isPopUp: spot.kind === 'pop-up',
    trap: honeypotName(spot.form),
  }
}
