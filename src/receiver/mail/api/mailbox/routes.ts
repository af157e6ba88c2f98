import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { boxedMailsSchema, boxesSchema } from '#core/api'
import { mailboxBehaviourSchema } from '#core/mailbox'
import { answers, body, done, problem, readings } from '../../../http/answers'

const noMailbox = { 404: problem('No stand-in mailbox runs beside this receiver.') }

export const listBoxes = createRoute({
  method: 'get',
  path: '/mailbox',
  summary: 'The boxes of the stand-in mailbox, and what goes wrong there.',
  responses: {
    ...answers,
    ...noMailbox,
    200: done(boxesSchema),
  },
})

export const readBox = createRoute({
  method: 'get',
  path: '/mailbox/{address}',
  summary: 'What lies in one box, newest first.',
  request: { params: z.object({ address: z.string().max(320) }) },
  responses: { ...answers, ...noMailbox, 200: done(boxedMailsSchema) },
})

export const behaveMailbox = createRoute({
  method: 'put',
  path: '/mailbox/behaviour',
  summary: 'What goes wrong in the stand-in mailbox, by a part of the address.',
  request: body(mailboxBehaviourSchema),
  responses: { ...answers, ...readings, ...noMailbox, 200: done(z.object({ ok: z.literal(true) })) },
})

export const emptyMailbox = createRoute({
  method: 'post',
  path: '/mailbox/empty',
  summary: 'Empties all boxes.',
  responses: { ...answers, ...noMailbox, 200: done(z.object({ ok: z.literal(true) })) },
})
