import { z } from 'zod'
import { pagesSchema } from '#core/rule'

export const popUpPositions = ['middle', 'bottom-end', 'bottom-start'] as const

/** When a pop-up appears, how often to one visitor, where on the page, and on which pages. */
export const popUpSchema = z.strictObject({
  position: z.enum(popUpPositions),
  when: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('at-once') }),
    z.strictObject({ kind: z.literal('seconds'), seconds: z.int().min(1).max(600) }),
    /** After half of the page was scrolled through. */
    z.strictObject({ kind: z.literal('half') }),
    /** When the pointer leaves at the top; on touch screens, on fast upward scrolling. */
    z.strictObject({ kind: z.literal('leaving') }),
  ]),
  often: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('every-visit') }),
    z.strictObject({ kind: z.literal('once') }),
    z.strictObject({ kind: z.literal('days'), days: z.int().min(1).max(365) }),
  ]),
  pages: pagesSchema,
  /** Words of campaigns, of which the page's address has to name one; missing or empty for everybody. */
  campaigns: z.array(z.string().trim().min(1).max(60)).max(20).optional(),
})
export type PopUp = z.infer<typeof popUpSchema>

/** Seen by each visitor at most once a month, after some reading: as little in the way as one that is noticed can be. */
export const startPopUp: PopUp = {
  position: 'middle',
  when: { kind: 'seconds', seconds: 20 },
  often: { kind: 'days', days: 30 },
  pages: { which: 'all', patterns: [] },
}
