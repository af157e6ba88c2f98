import { z } from 'zod'
import { batchIdSchema } from '#core/ids'
import { batchCountsSchema, MOST_NAMED, passedOverSchema } from '#core/journal'

/** What erasing came to: where was looked, and what went. Tells nothing of those who were erased. */
export const erasureReportSchema = z.object({
  /** Journal entries that were looked at, and those whose personal part went. */
  entries: z.int(),
  blanked: z.int(),
  /** On whatever lists. */
  members: z.int(),
  mails: z.int(),
  outcomes: z.int(),
  /** How often their addresses still stand in the store, byte for byte, its log and its free pages; null where it cannot be searched. */
  left: z.int().nullable(),
  /** Saved filters in which an address stands, with their list. */
  filters: z.array(z.string()).default([]),
})
export type ErasureReport = z.infer<typeof erasureReportSchema>

/** A batch as the receiver has it. */
export const batchProgressSchema = z.object({
  id: batchIdSchema,
  state: z.enum(['staging', 'applying', 'done', 'stopped']),
  /** People in all its chunks; how many of them were looked at. Of an erasure, journal entries. */
  total: z.int(),
  at: z.int(),
  counts: batchCountsSchema,
  passedOver: z.array(passedOverSchema).max(MOST_NAMED),
  report: erasureReportSchema.nullable(),
})
export type BatchProgress = z.infer<typeof batchProgressSchema>
