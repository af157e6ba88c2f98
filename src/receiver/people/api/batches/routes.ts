import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { batchProgressSchema } from '#core/api'
import { batchSchema, chunkSchema } from '#core/journal'
import { answers, body, done, problem, readings, refused } from '../../../http/answers'

const batchId = z.object({ id: z.string() })
const unknown = { 404: problem('There is no such batch.') }

export const beginBatch = createRoute({
  method: 'post',
  path: '/batches',
  summary: 'Opens a batch of changes to many people of a list, which is then sent in chunks. One that is open goes on.',
  request: body(batchSchema),
  responses: { ...answers, ...readings, ...refused, 200: done(batchProgressSchema) },
})

export const addBatchChunk = createRoute({
  method: 'put',
  path: '/batches/{id}/chunks/{number}',
  summary: 'Stages a chunk, the first one being number 0. One that is here already is passed over.',
  request: { params: batchId.extend({ number: z.coerce.number().int().min(0) }), ...body(chunkSchema) },
  responses: { ...answers, ...readings, ...refused, ...unknown, 200: done(batchProgressSchema) },
})

export const applyBatch = createRoute({
  method: 'post',
  path: '/batches/{id}/apply',
  summary:
    'From here on the receiver applies all of it, in steps between which sign-ups go on, and goes on after a crash.',
  request: { params: batchId },
  responses: { ...answers, ...refused, ...unknown, 200: done(batchProgressSchema) },
})

export const stopBatch = createRoute({
  method: 'post',
  path: '/batches/{id}/stop',
  summary: 'Ends a batch where it is. What was applied stays.',
  request: { params: batchId },
  responses: { ...answers, ...refused, ...unknown, 200: done(batchProgressSchema) },
})

export const readBatch = createRoute({
  method: 'get',
  path: '/batches/{id}',
  summary: 'How far a batch is.',
  request: { params: batchId },
  responses: { ...answers, ...unknown, 200: done(batchProgressSchema) },
})
