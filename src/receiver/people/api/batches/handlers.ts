import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import type { Ledger } from '../../../ledger'
import type { BatchResult } from '../..'
import { conflict, refused } from '../../../http/answers'
import { described } from '../../../http/described'

const paths = described(api.batches)

/** Many people of a list changed as one. */
export function batchRoutes(routes: OpenAPIHono, { batches }: Ledger): void {
  routes.openapi(paths.askErased, async (c) =>
    c.json({ erased: await batches.erasedAmong(c.req.valid('json').addresses) }, 200),
  )

  routes.openapi(paths.beginBatch, async (c) => {
    const result = await batches.begin(c.req.valid('json'), c.get('bearer'))
    return result.ok ? c.json(result.progress, 200) : conflict(c, 'Not begun', result.problem)
  })

  routes.openapi(paths.addBatchChunk, async (c) => {
    const { id, number } = c.req.valid('param')
    return answered(c, await batches.addChunk(id, number, c.req.valid('json')))
  })

  routes.openapi(paths.applyBatch, async (c) => answered(c, await batches.apply(c.req.valid('param').id)))

  routes.openapi(paths.stopBatch, async (c) => answered(c, await batches.stop(c.req.valid('param').id)))

  routes.openapi(paths.readBatch, async (c) => {
    const progress = await batches.progress(c.req.valid('param').id)
    return progress === null ? unknown(c) : c.json(progress, 200)
  })
}

function answered(c: Context, result: BatchResult) {
  if (result.ok) return c.json(result.progress, 200)
  return result.problem.code === 'unknown-batch' ? unknown(c) : conflict(c, 'Not done', result.problem)
}

function unknown(c: Context) {
  return refused(c, { status: 404, title: 'No such batch', detail: 'It was never begun here.' })
}
