import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { spotIdSchema } from '#core/ids'

export const devices = ['phone', 'tablet', 'computer'] as const
export type Device = (typeof devices)[number]

/** From so many CSS pixels on it is a tablet, and a computer. Common practice, without a source. */
const TABLET_FROM = 600
const COMPUTER_FROM = 1_024

export const deviceOf = (width: number): Device =>
  width >= COMPUTER_FROM ? 'computer' : width >= TABLET_FROM ? 'tablet' : 'phone'

/** What one form on a page was to whoever looked at the page. */
const seenFormSchema = z.strictObject({
  spot: spotIdSchema,
  /** The receiver's signed note of this view, which came with the form. It names version and hour, and no visitor. */
  view: z.string().regex(/^[\w.-]{20,80}$/),
  /** Whether it was on screen for a second; false where the server counts that. */
  isSeen: z.boolean(),
  isStarted: z.boolean(),
})

const cameFromPart = z.string().max(300)

/** What a page sends when it is left. What was told of a view before is not counted again. */
export const beaconSchema = z.strictObject({
  forms: z.array(seenFormSchema).min(1).max(20),
  width: z.number().min(0).max(100_000),
  cameFrom: z.strictObject({ source: cameFromPart, campaign: cameFromPart, referrer: cameFromPart }),
})
export type Beacon = z.infer<typeof beaconSchema>

/** How often forms were seen and begun on one day: sums, of nobody in particular. */
export const seenRowSchema = z.object({
  day: z.string(),
  spot: spotIdSchema,
  version: z.int(),
  source: addressesIn(z.string()),
  /** Missing where all kinds are summed. */
  device: z.enum(devices).optional(),
  views: z.int(),
  starts: z.int(),
  /** Of what came from networks that sent far more than people would: counted apart. */
  setAside: z.int(),
})
export type SeenRow = z.infer<typeof seenRowSchema>

/** By the hour, for when people come. */
export const seenHourSchema = z.object({ day: z.string(), hour: z.int(), spot: spotIdSchema, views: z.int() })
export type SeenHour = z.infer<typeof seenHourSchema>
