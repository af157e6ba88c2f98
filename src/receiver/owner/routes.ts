import { createRoute, z } from '@hono/zod-openapi'
import { journalIdSchema, spotIdSchema } from '#core/ids'
import { arrivalSchema, entrySchema } from '#core/journal'
import { memberSchema } from '#core/list'
import { pictureSchema } from '#core/picture'
import { kinds } from '#core/sync'

/** Every route of the owner's API, with the schemas that check its bodies and type its answers. */

const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  errors: z.array(z.object({ field: z.string(), code: z.string(), message: z.string() })).optional(),
})
export type ProblemBody = z.infer<typeof problemSchema>

export const problem = (description: string) => ({
  description,
  content: { 'application/problem+json': { schema: problemSchema } },
})
export const json = <Schema extends z.ZodType>(schema: Schema) => ({ content: { 'application/json': { schema } } })
export const done = <Schema extends z.ZodType>(schema: Schema) => ({ description: 'Done.', ...json(schema) })
export const body = <Schema extends z.ZodType>(schema: Schema) => ({ body: { ...json(schema), required: true } })

export const answers = {
  401: problem('The owner’s key is missing or wrong.'),
  413: problem('More than 16 MB at once.'),
}
export const readings = {
  400: problem('Not JSON.'),
  422: problem('The body is not as described.'),
}
const refused = { 409: problem('It contradicts what is here.') }

const wholeNumber = (description: string) =>
  z.coerce.number().int().min(0).catch(0).openapi({ type: 'integer', minimum: 0, description })
const cursorQuery = z.object({
  after: wholeNumber('The cursor: the last number already known; 0 for all.'),
  mark: z.string().optional().openapi({
    description: 'The mark that came with the cursor. 409 when this history has another one there.',
  }),
  limit: wholeNumber('At most this many.'),
})
const page = { journal: journalIdSchema, cursor: z.int(), mark: z.string(), latest: z.int() }

const refusal = z.object({ code: z.string(), message: z.string() })
const outcome = z.union([
  z.object({ id: z.string(), ok: z.literal(true), n: z.int() }),
  z.object({ id: z.string(), ok: z.literal(false), problem: refusal }),
])
const about = { kind: z.string(), key: z.string() }
const changeOutcome = z.union([
  z.object({ ...about, ok: z.literal(true), revision: z.int() }),
  z.object({ ...about, ok: z.literal(false), conflict: z.object({ revision: z.int(), body: z.unknown() }) }),
  z.object({ ...about, ok: z.literal(false), problem: refusal }),
])
/** Read one by one by its handler, so that one that cannot be read is refused by itself. */
const readLater = (component: string) => z.unknown().openapi({ allOf: [{ $ref: `#/components/schemas/${component}` }] })

const leap = z.object({ by: z.number(), isSinceStart: z.boolean(), trustedInMs: z.number() })

export const describeReceiver = createRoute({
  method: 'get',
  path: '/receiver',
  summary:
    'Which receiver this is: its journal, the numbers of its newest entry and its newest change, how visitors reach it.',
  responses: {
    ...answers,
    200: done(
      z.object({
        journal: journalIdSchema,
        latest: z.int(),
        latestChange: z.int(),
        publicUrl: z.url(),
        leap: leap.nullable(),
      }),
    ),
  },
})

const browserState = z.discriminatedUnion('state', [
  z.object({ state: z.literal('ready'), version: z.string(), path: z.string() }),
  z.object({ state: z.literal('none') }),
  z.object({ state: z.literal('broken'), path: z.string(), reason: z.string() }),
])

export const describeBrowser = createRoute({
  method: 'get',
  path: '/browser',
  summary: 'Whether a browser is installed beside the receiver, which rehearsals then use, and why it does not start.',
  responses: { ...answers, 200: done(browserState) },
})

export const confirmClock = createRoute({
  method: 'post',
  path: '/clock/confirm',
  summary: 'Says that the computer’s clock is right after a leap: what ends with time ends by it from now on.',
  responses: { ...answers, 200: done(z.object({ leap: leap.nullable() })) },
})

export const readJournal = createRoute({
  method: 'get',
  path: '/journal',
  summary: 'Journal entries after a cursor, oldest first, at most 5000.',
  request: { query: cursorQuery },
  responses: { ...answers, ...refused, 200: done(z.object({ entries: z.array(entrySchema), ...page })) },
})

export const readObjects = createRoute({
  method: 'get',
  path: '/objects',
  summary:
    'What the owner makes (sites, lists, forms with drafts, versions, spots, themes, pictures without their bytes), as far as it changed after a cursor. A null body was taken away.',
  request: { query: cursorQuery },
  responses: {
    ...answers,
    ...refused,
    200: done(
      z.object({
        objects: z.array(z.object({ kind: z.enum(kinds), key: z.string(), revision: z.int(), body: z.unknown() })),
        ...page,
      }),
    ),
  },
})

export const followNews = createRoute({
  method: 'get',
  path: '/stream',
  summary: 'One line of JSON at each news, an empty object as a sign of life. Stays open.',
  responses: {
    200: {
      description: 'Lines of JSON.',
      content: {
        'application/x-ndjson': {
          schema: z.object({ latest: z.int().optional(), latestChange: z.int().optional() }),
        },
      },
    },
  },
})

export const carryOutCommands = createRoute({
  method: 'post',
  path: '/commands',
  summary:
    'Carries out changes to people, each at most once however often it is sent, each with an outcome of its own.',
  request: body(z.strictObject({ commands: z.array(readLater('Command')).max(1000) })),
  responses: { ...answers, ...readings, 200: done(z.object({ outcomes: z.array(outcome) })) },
})

export const takeChanges = createRoute({
  method: 'post',
  path: '/changes',
  summary:
    'Takes in changes to what the owner makes, each with an outcome of its own: the new revision, the conflict with what somebody else changed, or what is wrong with it. A version never changes. With `together`, all are taken or none is: the outcome of each that was not taken says why, and those of the others do not hold.',
  request: body(z.strictObject({ changes: z.array(readLater('Change')).max(200), together: z.boolean().optional() })),
  responses: { ...answers, ...readings, 200: done(z.object({ outcomes: z.array(changeOutcome) })) },
})

const pictureId = z.object({ id: z.string() })

export const readPicture = createRoute({
  method: 'get',
  path: '/pictures/{id}',
  summary: 'A picture with its bytes.',
  request: { params: pictureId },
  responses: { ...answers, 404: problem('Its bytes were never sent here.'), 200: done(pictureSchema) },
})

export const keepPicture = createRoute({
  method: 'put',
  path: '/pictures/{id}',
  summary: 'Keeps a picture’s bytes. Its id is the beginning of their SHA-256.',
  request: { params: pictureId, ...body(pictureSchema) },
  responses: { ...answers, ...readings, ...refused, 200: done(z.object({ ok: z.literal(true) })) },
})

export const refill = createRoute({
  method: 'post',
  path: '/refill',
  summary:
    'Continues an empty or partly refilled journal from a copy of it. 409 where the numbers do not follow, or where an entry cannot.',
  request: body(z.strictObject({ journal: journalIdSchema, entries: z.array(entrySchema).max(5000) })),
  responses: { ...answers, ...readings, ...refused, 200: done(z.object({ latest: z.int() })) },
})

export const recover = createRoute({
  method: 'post',
  path: '/recover',
  summary:
    'Takes in again, under new numbers, what a copy of the journal has after the last entry that both have in common.',
  request: body(z.strictObject({ common: z.int().min(0), entries: z.array(entrySchema).max(5000) })),
  responses: { ...answers, ...readings, 200: done(z.object({ latest: z.int(), taken: z.int(), left: z.int() })) },
})

const fetchedPage = z.object({
  status: z.int(),
  address: z.string().openapi({ description: 'Where it was found, after redirects.' }),
  html: z.string(),
  encoding: z.string(),
  policies: z.array(z.string()),
  frameOptions: z.string(),
  age: z.int().nullable(),
  location: z.string().nullable(),
})

export const fetchOnePage = createRoute({
  method: 'post',
  path: '/page',
  summary:
    'Fetches a page of a site as a visitor’s browser gets it, to look for code in it. Nothing of a private network; at most 5 redirects, 5 s and 3 MB.',
  request: body(z.strictObject({ address: z.string().max(2000) })),
  responses: {
    ...answers,
    ...readings,
    502: problem('The page could not be fetched; `detail` says why.'),
    200: done(fetchedPage),
  },
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

const code = z.object({ code: z.string() })
const as = z.enum(['paused', 'retired']).optional()
const noRehearsal = { 404: problem('No rehearsal with this code goes on.') }

export const startRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals',
  summary:
    'Begins a rehearsal: its one-time code marks made-up people, who live in a space of their own until it ends: at the latest after five minutes, by hand after half an hour. It counts at one spot.',
  request: body(z.strictObject({ spot: spotIdSchema, byHand: z.boolean().optional() })),
  responses: {
    ...answers,
    ...readings,
    429: problem('Too many rehearsals go on at once.'),
    200: done(z.object({ code: z.string(), hasBrowser: z.boolean() })),
  },
})

const fill = z.strictObject({ name: z.string().max(200), value: z.string().max(20_000).nullable() })

export const visitForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/visit',
  summary:
    'Opens a page in the receiver’s browser, with an empty profile, and uses the form on it as a hand would. `isTried` says whether that could be done, `reason` why not.',
  request: {
    params: code,
    ...body(
      z.strictObject({
        address: z.string().max(2000),
        spot: spotIdSchema,
        action: z.string().max(2000),
        pages: z.array(z.string().max(2000)).max(4),
        size: z.enum(['desk', 'phone']),
        hasScripts: z.boolean(),
        isPopUp: z.boolean(),
        fills: z.array(fill).max(500).nullable(),
        trap: z.string().max(200),
        presses: z.union([z.literal(0), z.literal(1), z.literal(2)]),
        withPicture: z.boolean().optional(),
      }),
    ),
  },
  responses: { ...answers, ...readings, ...noRehearsal, 200: done(z.object({ isTried: z.boolean() }).loose()) },
})

export const fetchForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/fetch',
  summary: 'Fetches a page as a visitor would. From this receiver, `as` has its spot held for paused or retired.',
  request: { params: code, ...body(z.strictObject({ address: z.string().max(2000), as })) },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    502: problem('The page could not be fetched; `detail` says why.'),
    200: done(fetchedPage),
  },
})

export const sendForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/send',
  summary: 'Posts a form as a browser would, to this receiver’s own actions alone, and follows where it leads.',
  request: {
    params: code,
    ...body(
      z.strictObject({
        address: z.string().max(2000),
        contentType: z
          .string()
          .max(200)
          .regex(/^[\x20-\x7e]*$/),
        body: z.base64().max(200_000),
        as,
      }),
    ),
  },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    403: problem('The form sends to somewhere else than this receiver.'),
    502: problem('No answer came; `detail` says why.'),
    200: done(fetchedPage),
  },
})

export const lookUpForRehearsal = createRoute({
  method: 'get',
  path: '/rehearsals/{code}/member',
  summary: 'What is known of a made-up person: the member as the journal adds up to, and every sign-up.',
  request: { params: code, query: z.object({ email: z.string().max(400) }) },
  responses: {
    ...answers,
    ...noRehearsal,
    200: done(z.object({ member: memberSchema.nullable(), arrivals: z.array(arrivalSchema) })),
  },
})

export const mailsForRehearsal = createRoute({
  method: 'get',
  path: '/rehearsals/{code}/mails',
  summary: 'Mail to a made-up person as it came, read by a parser, and what of it is still on its way.',
  request: { params: code, query: z.object({ email: z.string().max(400) }) },
  responses: {
    ...answers,
    ...noRehearsal,
    200: done(z.object({ received: z.array(z.unknown()), queued: z.array(z.unknown()) })),
  },
})

export const downloadForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/download',
  summary: 'Fetches a gift by its link: how large it is, and its SHA-256.',
  request: { params: code, ...body(z.strictObject({ address: z.string().max(2000) })) },
  responses: {
    ...answers,
    ...readings,
    ...noRehearsal,
    502: problem('No answer came; `detail` says why.'),
    200: done(z.object({ status: z.int(), address: z.string(), size: z.int(), sha256: z.string() })),
  },
})

export const expireForRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/expire',
  summary: 'Ends a made-up person’s waiting, as its days would.',
  request: { params: code, ...body(z.strictObject({ email: z.string().max(400) })) },
  responses: { ...answers, ...readings, ...noRehearsal, 200: done(z.object({ ok: z.literal(true) })) },
})

export const endRehearsal = createRoute({
  method: 'post',
  path: '/rehearsals/{code}/end',
  summary: 'Ends a rehearsal; its people are gone.',
  request: { params: code },
  responses: { ...answers, 200: done(z.object({ ok: z.literal(true) })) },
})
