import { z } from 'zod'
import { addressesIn } from '#core/privacy'
import { CONTRADICTS, route } from './route'
import { batchIdSchema } from '#core/ids'
import { batchCountsSchema, batchSchema, chunkSchema, MOST_ASKED, MOST_NAMED, passedOverSchema } from '#core/journal'

/** What erasing came to: where was looked, and what went. Tells nothing of those who were erased. */
const erasureReportSchema = z.object({
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
  filters: addressesIn(z.array(z.string())).default([]),
})
export type ErasureReport = z.infer<typeof erasureReportSchema>

/** A batch as the receiver has it. */
const batchProgressSchema = z.object({
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

const batchId = z.object({ id: z.string() })
const unknown = { 404: 'There is no such batch.' } as const

export const batchesRoutes = {
  beginBatch: route({
    method: 'post',
    path: '/batches',
    needs: 'edit',
    summary:
      'Opens a batch of changes to many people of a list, which is then sent in chunks. One that is open goes on.',
    body: batchSchema,
    answer: batchProgressSchema,
    refusals: CONTRADICTS,
  }),
  askErased: route({
    method: 'post',
    path: '/batches/erased',
    needs: 'edit',
    summary: 'Which of some addresses are of people who were erased here: a file does not bring them back.',
    body: z.strictObject({ addresses: z.array(z.string().max(320)).max(MOST_ASKED) }),
    answer: z.object({ /** Their places among those that were asked about. */ erased: z.array(z.int()) }),
  }),
  addBatchChunk: route({
    method: 'put',
    path: '/batches/{id}/chunks/{number}',
    needs: 'edit',
    summary: 'Stages a chunk, the first one being number 0. One that is here already is passed over.',
    params: batchId.extend({ number: z.coerce.number().int().min(0) }),
    body: chunkSchema,
    answer: batchProgressSchema,
    refusals: { ...CONTRADICTS, ...unknown },
  }),
  applyBatch: route({
    method: 'post',
    path: '/batches/{id}/apply',
    needs: 'edit',
    summary:
      'From here on the receiver applies all of it, in steps between which sign-ups go on, and goes on after a crash.',
    params: batchId,
    answer: batchProgressSchema,
    refusals: { ...CONTRADICTS, ...unknown },
  }),
  stopBatch: route({
    method: 'post',
    path: '/batches/{id}/stop',
    needs: 'edit',
    summary: 'Ends a batch where it is. What was applied stays.',
    params: batchId,
    answer: batchProgressSchema,
    refusals: { ...CONTRADICTS, ...unknown },
  }),
  readBatch: route({
    method: 'get',
    path: '/batches/{id}',
    needs: 'see',
    summary: 'How far a batch is.',
    params: batchId,
    answer: batchProgressSchema,
    refusals: unknown,
  }),
}
