import type { OpenAPIHono } from '@hono/zod-openapi'
import { api } from '#core/api'
import { described } from '../../http/described'
import { sendProblem } from '../../http/problem'
import { readBytes } from '../../http/read-body'
import type { Ledger } from '../../ledger'
import { MAX_REPORT_BYTES, takeReport } from '../reports'

/** Owners may be on a slow line. */
const LONGEST_MS = 110_000

const { takeReport: path } = described(api.mail)

/** Delivery reports, as the bytes of a mail. */
export function reportRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openAPIRegistry.registerPath(path)
  routes.post(path.getRoutingPath(), async (c) => {
    const bytes = await readBytes(c, { bytes: MAX_REPORT_BYTES, ms: LONGEST_MS })
    if (!(bytes instanceof Uint8Array))
      return bytes.code === 'too-large'
        ? sendProblem(c, { status: 413, title: 'Too large', detail: 'A report has at most 1 MB.' })
        : sendProblem(c, { status: 400, title: 'Broken off', detail: 'The report broke off.' })
    const reading = await takeReport(ledger, bytes)
    if (!reading.ok) return sendProblem(c, { status: 422, title: 'Not taken', detail: reading.message })
    const { recipient, status, isForGood, member } = reading
    return c.json({ recipient, status, isForGood, member }, 200)
  })
}
