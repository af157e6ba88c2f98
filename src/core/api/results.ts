import { z } from 'zod'
import { route } from './route'
import { spotIdSchema } from '#core/ids'
import { seenHourSchema, seenRowSchema } from '#core/results'

/** How often forms were seen and begun, in sums. */
const seenSchema = z.object({
  rows: z.array(seenRowSchema),
  /** Only where it was asked closely. */
  hours: z.array(seenHourSchema),
  /** The first day on which each spot was counted. */
  since: z.array(z.object({ spot: spotIdSchema, day: z.string() })),
})
export type Seen = z.infer<typeof seenSchema>

export const resultsRoutes = {
  readSeen: route({
    method: 'get',
    path: '/seen',
    needs: 'see',
    summary:
      'How often forms were seen and begun on some days, both included, in sums; `closely` by kind of device and by the hour as well. Of many days together, `whole` tells one sum of each spot, version and source, on the first of them.',
    query: z.object({
      from: z.iso.date().default('1970-01-01'),
      to: z.iso.date().default('9999-12-31'),
      closely: z.enum(['yes', 'no']).default('no'),
      whole: z.enum(['yes', 'no']).default('no'),
    }),
    answer: seenSchema,
  }),
}
