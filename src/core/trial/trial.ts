import { z } from 'zod'
import { formIdSchema, spotIdSchema, trialIdSchema } from '#core/ids'
import { plainLine } from '#core/text'

/** More than so many take too long to tell apart. */
export const MOST_WORDINGS = 4

const wordingSchema = z.strictObject({
  /** A version of the form that is shown by this trial alone, so that its sums are the trial's. */
  version: z.int().min(1),
  name: plainLine,
})
export type Wording = z.infer<typeof wordingSchema>

export const planSchema = z.strictObject({
  /** Share of views that end in a sign-up, as it was known when the trial began. */
  rate: z.number().gt(0).lt(1),
  /** The least difference of that share that matters to its owner. */
  difference: z.number().gt(0).lt(1),
  /** Views that each wording is to have at most. */
  views: z.int().min(1),
})
export type Plan = z.infer<typeof planSchema>

const wordingCountSchema = z.strictObject({
  version: z.int().min(1),
  views: z.int().min(0),
  signUps: z.int().min(0),
})
export type WordingCount = z.infer<typeof wordingCountSchema>

/** Wordings of a form that are shown in turn at one spot, to learn which brings more sign-ups. */
export const trialSchema = z.strictObject({
  id: trialIdSchema,
  form: formIdSchema,
  spot: spotIdSchema,
  /** The first is what stood there before. */
  wordings: z.array(wordingSchema).min(2).max(MOST_WORDINGS),
  /** Whether a browser keeps which one it was shown; else it is by chance at each view. */
  isKept: z.boolean(),
  plan: planSchema,
  startedAt: z.iso.datetime(),
  /** Missing while it goes on. What was counted until then is what its result rests on. */
  ended: z
    .strictObject({
      at: z.iso.datetime(),
      counts: z.array(wordingCountSchema).max(MOST_WORDINGS),
      /** The version that was published, or null where the form stayed as it was. */
      chosen: z.int().min(1).nullable(),
    })
    .optional(),
})
export type Trial = z.infer<typeof trialSchema>
