import { createRoute, type OpenAPIHono } from '@hono/zod-openapi'
import { z } from 'zod'
import { takenReportSchema } from '#core/api'
import { answers, done, problem } from '../../http/answers'
import { sendProblem } from '../../http/problem'
import { readBytes } from '../../http/read-body'
import type { Ledger } from '../../ledger'
import { MAX_REPORT_BYTES, takeReport } from '../reports'

/** Whoever has the owner's key may be on a slow line. */
const LONGEST_MS = 110_000

const takeDeliveryReport = createRoute({
  method: 'post',
  path: '/mail/reports',
  summary: 'Takes in a delivery report (RFC 3464) as the bytes of one mail, at most 1 MB: forward bounces to it.',
  request: {
    body: { content: { 'message/rfc822': { schema: z.string().openapi({ format: 'binary' }) } }, required: true },
  },
  responses: {
    ...answers,
    422: problem('It is no report of a mail that was sent from here.'),
    200: done(takenReportSchema),
  },
})

/** Delivery reports, as the bytes of a mail. */
export function reportRoutes(routes: OpenAPIHono, ledger: Ledger): void {
  routes.openAPIRegistry.registerPath(takeDeliveryReport)
  routes.post(takeDeliveryReport.path, async (c) => {
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
