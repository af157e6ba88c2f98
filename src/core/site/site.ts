import { z } from 'zod'
import { siteIdSchema } from '#core/ids'
import { paletteSchema } from '#core/look'
import { harmlessText, plainLine } from '#core/text'
import { siteKindSchema, siteProfileSchema } from './profiles'

/** A website of the owner's. */
export const siteSchema = z.strictObject({
  id: siteIdSchema,
  name: plainLine,
  /** Where it is reached, as typed; `addressProblem` says whether that can work. */
  address: harmlessText,
  kind: siteKindSchema,
  /** Taken from its pages or set by hand; null until then. */
  palette: paletteSchema.nullable(),
  /** What its builder permits, where its owner answered the questions; missing is what is usual for its kind. */
  profile: siteProfileSchema.optional(),
  /** Where its privacy notice is, for landing pages; missing or empty for none. */
  privacy: harmlessText.optional(),
  /** The zone whose clocks its days and hours are told by, as the IANA database names it; missing is UTC. */
  zone: plainLine.optional(),
  createdAt: z.iso.datetime(),
})
export type Site = z.infer<typeof siteSchema>
