import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { browserStateSchema, clockLeapSchema, receiverSchema } from '#core/api'
import { answers, done, problem } from '../../http/answers'

export const describeReceiver = createRoute({
  method: 'get',
  path: '/receiver',
  summary:
    'Which receiver this is: its journal, the numbers of its newest entry and its newest change, how visitors reach it.',
  responses: {
    ...answers,
    200: done(receiverSchema),
  },
})

export const describeBrowser = createRoute({
  method: 'get',
  path: '/browser',
  summary: 'Whether a browser is installed beside the receiver, which rehearsals then use, and why it does not start.',
  responses: { ...answers, 200: done(browserStateSchema) },
})

export const confirmClock = createRoute({
  method: 'post',
  path: '/clock/confirm',
  summary: 'Says that the computer’s clock is right after a leap: what ends with time ends by it from now on.',
  responses: { ...answers, 200: done(z.object({ leap: clockLeapSchema.nullable() })) },
})

export const copyStore = createRoute({
  method: 'get',
  path: '/backup',
  summary: 'A whole, consistent copy of the running store, as one SQLite file. It holds people’s addresses.',
  responses: {
    ...answers,
    507: problem('There is no room for the copy.'),
    200: {
      description: 'The copy.',
      content: { 'application/vnd.sqlite3': { schema: z.string().openapi({ format: 'binary' }) } },
    },
  },
})
