import { z } from 'zod'
import { spotIdSchema } from '#core/ids'

/**
 * What a spot is on one page of its site. `no-place`: its rule means the page, and finds nothing there. `unseen`: only a
 * browser can tell. A spot that is not there, and need not be, is not told of.
 */
export const spotOnPageSchema = z.enum(['there', 'twice', 'older', 'damaged', 'no-place', 'unseen'])
export type SpotOnPage = z.infer<typeof spotOnPageSchema>

const lookedPageSchema = z.object({
  /** With its query, without the host. */
  path: z.string(),
  /** Why it could not be looked at; missing where it was. */
  problem: z.string().optional(),
  spots: z.record(z.string(), z.object({ state: spotOnPageSchema, said: z.string() })),
})
export type LookedPage = z.infer<typeof lookedPageSchema>

/** One time that a site was looked through. */
export const crawlReportSchema = z.object({
  /** In milliseconds since 1970. */
  at: z.int(),
  endedAt: z.int(),
  from: z.enum(['sitemap', 'links']),
  /** How many pages were found; at most so many are looked at as stand in `pages`. */
  found: z.int(),
  /** Pages that the site’s `robots.txt` keeps programs from. */
  forbidden: z.int(),
  pages: z.array(lookedPageSchema),
  /** What of the site could not be read, in words for its owner. */
  remarks: z.array(z.string()),
  /** Whether it was stopped before its end. */
  isStopped: z.boolean(),
  /** The spots that were looked for. */
  spots: z.array(spotIdSchema),
})
export type CrawlReport = z.infer<typeof crawlReportSchema>

export const crawlStateSchema = z.object({
  /** Null where none goes on. */
  running: z
    .object({ at: z.int(), done: z.int(), of: z.int(), doing: z.enum(['finding', 'looking']), page: z.string() })
    .nullable(),
  newest: crawlReportSchema.nullable(),
  /** The time before. */
  before: crawlReportSchema.nullable(),
  isRepeated: z.boolean(),
  /** Why the last one found nothing to look at; empty for nothing. */
  said: z.string(),
})
export type CrawlState = z.infer<typeof crawlStateSchema>
