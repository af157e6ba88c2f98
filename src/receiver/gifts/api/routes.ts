import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { takenReportSchema } from '#core/api'
import { answers, done, problem } from '../../owner/answers'

export const takeDeliveryReport = createRoute({
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
