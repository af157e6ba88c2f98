import { pageAddress } from '#core/embed'
import { type FormContent, honeypotName } from '#core/form'
import { isBroughtByScript, type Spot } from '#core/spot'
import type { VisitWish } from './ports'

/** A visit of a page for the form of one spot. */
export function visitOf(
  spot: Spot,
  receiver: string,
  { words: { heading, button } }: Pick<FormContent, 'words'>,
  wish: Pick<
    VisitWish,
    'address' | 'viewer' | 'fills' | 'presses' | 'isSlow' | 'wasLookedAt' | 'sweeps' | 'wording' | 'takesGift'
  >,
): VisitWish {
  return {
    ...wish,
    spot: spot.id,
    action: `${receiver}/join/${spot.id}`,
    pages: [...new Set([pageAddress(receiver, spot.id), pageAddress(receiver, spot.slug ?? spot.id)])],
    words: [heading, button].map((text) => text.slice(0, 200)).filter((text) => text.trim() !== ''),
    comesByItself: isBroughtByScript(spot),
    trap: honeypotName(spot.form),
  }
}
