import { z } from 'zod'
import { rights } from './right'
import { route } from './route'
import { journalIdSchema } from '#core/ids'

/** A leap of the clock of the receiver's computer that nobody has confirmed yet; in milliseconds. */
const clockLeapSchema = z.object({
  /** Negative for back. */
  by: z.number(),
  isSinceStart: z.boolean(),
  trustedInMs: z.number(),
})
export type ClockLeap = z.infer<typeof clockLeapSchema>

/** A key as its holder knows it. */
const bearerSchema = z.object({ id: z.string(), name: z.string(), right: z.enum(rights), seesPeople: z.boolean() })
export type BearerState = z.infer<typeof bearerSchema>

/** Which receiver this is. */
const receiverSchema = z.object({
  journal: journalIdSchema,
  /** Number of the newest entry. */
  latest: z.int(),
  /** Number of the newest change to what the owner makes. */
  latestChange: z.int(),
  /** How visitors reach it. */
  publicUrl: z.url(),
  leap: clockLeapSchema.nullable(),
  /** How many networks were refused today, since they asked for more than a limit, and how often the one that was most. */
  refusedToday: z.object({ networks: z.int(), most: z.int() }).default({ networks: 0, most: 0 }),
  /** Whose key asked, and what it allows. */
  bearer: bearerSchema,
})

/** Whether a browser is installed beside the receiver, for rehearsals. */
const browserStateSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('ready'), version: z.string(), path: z.string() }),
  z.object({ state: z.literal('none') }),
  z.object({ state: z.literal('broken'), path: z.string(), reason: z.string() }),
])
export type BrowserState = z.infer<typeof browserStateSchema>

export const receiverRoutes = {
  describeReceiver: route({
    method: 'get',
    path: '/receiver',
    needs: 'see',
    summary:
      'Which receiver this is: its journal, the numbers of its newest entry and its newest change, how visitors reach it.',
    answer: receiverSchema,
  }),
  describeBrowser: route({
    method: 'get',
    path: '/browser',
    needs: 'see',
    summary:
      'Whether a browser is installed beside the receiver, which rehearsals then use, and why it does not start.',
    answer: browserStateSchema,
  }),
  confirmClock: route({
    method: 'post',
    path: '/clock/confirm',
    needs: 'own',
    summary: 'Says that the computer’s clock is right after a leap: what ends with time ends by it from now on.',
    answer: z.object({ leap: clockLeapSchema.nullable() }),
  }),
  copyStore: route({
    method: 'get',
    path: '/backup',
    needs: 'own',
    summary: 'A whole, consistent copy of the running store, as one SQLite file. It holds people’s addresses.',
    answer: z.string().meta({ format: 'binary' }),
    type: 'application/vnd.sqlite3',
    refusals: { 507: 'There is no room for the copy.' },
  }),
}
