import type { OpenAPIHono } from '@hono/zod-openapi'
import { api } from '#core/api'
import { MAX_GIFT_BYTES } from '#core/mail'
import { type GiftFiles } from '..'
import { sendProblem } from '../../http/problem'
import { described } from '../../http/described'
import { readStream } from '../../http/read-body'

const paths = described(api.files)

/** Owners may be on a slow line. */
const LONGEST_UPLOAD_MS = 110_000

/** Gifts, as bytes: they are larger than other bodies may be. */
export function giftRoutes(routes: OpenAPIHono, gifts: GiftFiles): void {
  for (const path of [paths.keepFile, paths.readFile]) routes.openAPIRegistry.registerPath(path)
  routes.put(paths.keepFile.getRoutingPath(), async (c) => {
    const body = readStream(c, { bytes: MAX_GIFT_BYTES, ms: LONGEST_UPLOAD_MS })
    if (body === null) return sendProblem(c, { status: 422, title: 'No bytes', detail: 'Send the file as the body.' })
    const outcome = await gifts.keep(c.req.param('id')!, body)
    if (outcome.ok) return c.json({ size: outcome.size }, 200)
    const problems = {
      'too-large': { status: 413, title: 'Too large', detail: 'A gift has at most 25 MB.' },
      'wrong-id': {
        status: 422,
        title: 'Other bytes',
        detail: 'A file is named after the SHA-256 of its bytes, and this one is not.',
      },
      'broken-off': { status: 400, title: 'Broken off', detail: 'The file broke off. Nothing was kept of it.' },
      'no-room': {
        status: 507,
        title: 'No room for it',
        detail: 'The receiver’s disk is full. Make room there and send the file again.',
      },
    } as const
    return sendProblem(c, problems[outcome.code])
  })
  routes.get(paths.readFile.getRoutingPath(), async (c) => {
    const size = await gifts.size(c.req.param('id')!)
    if (size === null) return sendProblem(c, { status: 404, title: 'No such file', detail: 'Its bytes are not here.' })
    const headers = { 'Content-Type': 'application/octet-stream', 'Content-Length': String(size) }
    // Who only asks whether it is there opens no file.
    return c.req.method === 'HEAD'
      ? c.body(null, 200, headers)
      : new Response(await gifts.read(c.req.param('id')!), { headers })
  })
}
