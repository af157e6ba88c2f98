import { z } from 'zod'
import { journalIdSchema } from '#core/ids'

/** A leap of the clock of the receiver's computer that nobody has confirmed yet; in milliseconds. */
export const clockLeapSchema = z.object({
  /** Negative for back. */
  by: z.number(),
  isSinceStart: z.boolean(),
  trustedInMs: z.number(),
})
export type ClockLeap = z.infer<typeof clockLeapSchema>

/** Which receiver this is. */
export const receiverSchema = z.object({
  journal: journalIdSchema,
  /** Number of the newest entry. */
  latest: z.int(),
  /** Number of the newest change to what the owner makes. */
  latestChange: z.int(),
  /** How visitors reach it. */
  publicUrl: z.url(),
  leap: clockLeapSchema.nullable(),
})
export type ReceiverDescription = z.infer<typeof receiverSchema>

/** Whether a browser is installed beside the receiver, for rehearsals. */
export const browserStateSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('ready'), version: z.string(), path: z.string() }),
  z.object({ state: z.literal('none') }),
  z.object({ state: z.literal('broken'), path: z.string(), reason: z.string() }),
])
export type BrowserState = z.infer<typeof browserStateSchema>
