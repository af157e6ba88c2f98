import { z } from 'zod'
import { spotIdSchema } from '#core/ids'
import { seenHourSchema, seenRowSchema } from '#core/results'

/** How often forms were seen and begun, in sums. */
export const seenSchema = z.object({
  rows: z.array(seenRowSchema),
  /** Only where it was asked closely. */
  hours: z.array(seenHourSchema),
  /** The first day on which each spot was counted. */
  since: z.array(z.object({ spot: spotIdSchema, day: z.string() })),
})
export type Seen = z.infer<typeof seenSchema>
