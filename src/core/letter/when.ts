import { z } from 'zod'
import { isZone, momentIn } from '#core/zone'

const timeSchema = z.string().regex(/^(?:[01]\d|2[0-3]):[0-5]\d$/)
/** A name of the IANA time zone database. */
export const zoneSchema = z.string().max(60)

/** When a letter goes. */
export const letterTimeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('now') }),
  z.strictObject({ kind: z.literal('at'), at: z.iso.datetime() }),
  /** At that hour of each reader's zone; of who has none known, in `zone`. */
  z.strictObject({ kind: z.literal('local'), day: z.iso.date(), time: timeSchema, zone: zoneSchema }),
])
export type LetterTime = z.infer<typeof letterTimeSchema>
export { timeSchema }

/** When somebody gets what goes at a time, by the zone that is known of them. */
export function momentFor(when: LetterTime, zone: string | undefined, now: number): number {
  switch (when.kind) {
    case 'now':
      return now
    case 'at':
      return Date.parse(when.at)
    case 'local':
      return momentIn(zone !== undefined && isZone(zone) ? zone : when.zone, when.day, when.time)
  }
}
