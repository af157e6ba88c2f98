import { z } from 'zod'
import { siteIdSchema } from '#core/ids'
import { paletteSchema } from '#core/look'
import { harmlessText, plainLine } from '#core/text'

/** What the site is built with: it decides where code goes and in which words that is explained. */
export const siteKindSchema = z.enum([
  'self-hosted-blog',
  'block-editor-blog',
  'builder-with-head',
  'builder-without-code',
  'static-pages',
  'other',
])
export type SiteKind = z.infer<typeof siteKindSchema>

/** A website of the owner's. */
export const siteSchema = z.strictObject({
  id: siteIdSchema,
  name: plainLine,
  /** Where it is reached, as typed; `addressProblem` says whether that can work. */
  address: harmlessText,
  kind: siteKindSchema,
  /** Taken from its pages or set by hand; null until then. */
  palette: paletteSchema.nullable(),
  createdAt: z.iso.datetime(),
})
export type Site = z.infer<typeof siteSchema>
