import { type Context, Hono } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import { cors } from 'hono/cors'
import { stream } from 'hono/streaming'
import type { z } from 'zod'
import { commandSchema } from '#core/journal'
import { pictureSchema } from '#core/picture'
import { changeSchema } from '#core/sync'
import { type ChangeOutcome, type CommandOutcome, type Ledger, OTHER_HISTORY, type Page } from '../ledger'
import { changesBody, commandsBody, openApiDocument, recoverBody, refillBody } from '../openapi'
import { isSameKey } from '../owner-key'
import { sendProblem } from '../problem'
import type { Settings } from '../settings'

/** How often a quiet stream shows that it is alive. Proxies often cut connections after 60 s of silence. */
const HEARTBEAT_MS = 20_000
/** Some 2 MB: a first pull of a long journal is bound by how fast a browser writes, and few large writes are faster. */
const MAX_ENTRIES = 5000
/** Forms with their drafts are the largest: some 10 KB each. */
const MAX_OBJECTS = 200

/** `/api/…`: the owner's side. Every path needs the owner's key, but the description of them all. */
export function apiRoutes(ledger: Ledger, settings: Settings, ownerKey: string): Hono {
  const routes = new Hono().basePath('/api')
  // The key travels in a header that no browser adds by itself, so any origin may ask: a workshop can be paired from elsewhere.
  routes.use(
    '*',
    cors({
      origin: '*',
      allowHeaders: ['Authorization', 'Content-Type'],
      allowMethods: ['GET', 'POST', 'PUT'],
      maxAge: 86_400,
    }),
  )
  routes.get('/openapi.json', (c) => c.json(openApiDocument(settings.publicUrl)))
  routes.use('*', async (c, next) => {
    c.header('Cache-Control', 'no-store')
    const given = /^Bearer (.+)$/.exec(c.req.header('Authorization') ?? '')?.[1]
    if (given !== undefined && isSameKey(given, ownerKey)) return next()
    return sendProblem(c, {
      status: 401,
      title: 'The owner’s key is needed',
      detail: 'Send the owner’s key as “Authorization: Bearer <key>”.',
      headers: { 'WWW-Authenticate': 'Bearer' },
    })
  })
  routes.use(
    '*',
    bodyLimit({
      maxSize: 16 * 1024 * 1024,
      onError: (c) => sendProblem(c, { status: 413, title: 'Too large', detail: 'Send at most 16 MB at once.' }),
    }),
  )

  routes.get('/receiver', (c) =>
    c.json({
      journal: ledger.journalId(),
      latest: ledger.latest(),
      latestChange: ledger.latestChange(),
      publicUrl: settings.publicUrl,
    }),
  )

  routes.get('/journal', (c) => {
    const page = ledger.entriesAfter(...cursorOf(c), limitOf(c, MAX_ENTRIES))
    return page === null ? otherHistory(c) : c.json(pageOf('entries', page))
  })

  routes.get('/objects', (c) => {
    const page = ledger.objectsAfter(...cursorOf(c), limitOf(c, MAX_OBJECTS))
    return page === null ? otherHistory(c) : c.json(pageOf('objects', page))
  })

  function pageOf<T>(name: string, { items, ...page }: Page<T>) {
    return { journal: ledger.journalId(), [name]: items, ...page }
  }

  routes.get('/stream', (c) => {
    c.header('Content-Type', 'application/x-ndjson')
    return stream(c, async (out) => {
      let wake = () => {}
      let isOpen = true
      out.onAbort(() => {
        isOpen = false
        wake()
      })
      const stopListening = ledger.onNews(() => wake())
      try {
        let told = ''
        const news = () => JSON.stringify({ latest: ledger.latest(), latestChange: ledger.latestChange() })
        while (isOpen) {
          const latest = news()
          const woken = new Promise<void>((resolve) => (wake = resolve))
          await out.writeln(latest === told ? '{}' : latest)
          told = latest
          if (news() !== told) continue
          const timer = setTimeout(wake, HEARTBEAT_MS)
          await woken
          clearTimeout(timer)
        }
      } finally {
        stopListening()
      }
    })
  })

  // One by one: what cannot be read is refused by itself and stops none of the others.
  routes.post('/commands', async (c) => {
    const body = await readJson(c, commandsBody)
    if (body instanceof Response) return body
    const readings = body.commands.map((command) => ({
      id: textIn(command, 'id'),
      reading: commandSchema.safeParse(command),
    }))
    const done = await ledger.carryOut(readings.flatMap(({ reading }) => (reading.success ? [reading.data] : [])))
    const outcomes = readings.map(({ id, reading }) =>
      reading.success
        ? done.shift()!
        : { id, ok: false, problem: { code: 'invalid', message: sentenceFor(reading.error) } },
    )
    return c.json({ outcomes: outcomes as CommandOutcome[] })
  })

  routes.post('/changes', async (c) => {
    const body = await readJson(c, changesBody)
    if (body instanceof Response) return body
    const readings = body.changes.map((change) => ({
      about: { kind: textIn(change, 'kind'), key: textIn(change, 'key') },
      reading: changeSchema.safeParse(change),
    }))
    const done = await ledger.takeChanges(readings.flatMap(({ reading }) => (reading.success ? [reading.data] : [])))
    const outcomes = readings.map(({ about, reading }) =>
      reading.success
        ? done.shift()!
        : { ...about, ok: false, problem: { code: 'invalid', message: sentenceFor(reading.error) } },
    )
    return c.json({ outcomes: outcomes as ChangeOutcome[] })
  })

  routes.get('/pictures/:id', (c) => {
    const picture = ledger.picture(c.req.param('id'))
    return picture === null
      ? sendProblem(c, { status: 404, title: 'No such picture', detail: 'Its bytes were never sent here.' })
      : c.json(picture)
  })

  routes.put('/pictures/:id', async (c) => {
    const picture = await readJson(c, pictureSchema)
    if (picture instanceof Response) return picture
    const result =
      picture.id === c.req.param('id')
        ? await ledger.keepPicture(picture)
        : ({ ok: false, code: 'wrong-id', message: 'The picture is named otherwise in its own content.' } as const)
    return result.ok ? c.json({ ok: true }) : conflict(c, 'Not kept', result)
  })

  routes.post('/refill', async (c) => {
    const body = await readJson(c, refillBody)
    if (body instanceof Response) return body
    const result = await ledger.refill(body.journal, body.entries)
    return result.ok ? c.json({ latest: result.latest }) : conflict(c, 'Not refilled', result)
  })

  routes.post('/recover', async (c) => {
    const body = await readJson(c, recoverBody)
    return body instanceof Response ? body : c.json(await ledger.recover(body.common, body.entries))
  })

  routes.all('*', (c) =>
    sendProblem(c, { status: 404, title: 'No such path', detail: 'See /api/openapi.json for what there is.' }),
  )
  return routes
}

function cursorOf(c: Context): [after: number, mark: string | null] {
  return [wholeNumber(c.req.query('after')), c.req.query('mark') ?? null]
}

function limitOf(c: Context, most: number): number {
  return Math.min(wholeNumber(c.req.query('limit')) || most, most)
}

function wholeNumber(text: string | undefined): number {
  return text !== undefined && /^\d{1,15}$/.test(text) ? Number(text) : 0
}

function conflict(c: Context, title: string, { code, message }: { code: string; message: string }): Response {
  return sendProblem(c, { status: 409, title, detail: message, errors: [{ field: '', code, message }] })
}

function otherHistory(c: Context): Response {
  return conflict(c, 'Another history', {
    code: OTHER_HISTORY,
    message: 'This receiver’s history is not the one that the cursor belongs to.',
  })
}

/** One part of something unread, if it is a text. */
function textIn(value: unknown, part: string): string {
  const text =
    value !== null && typeof value === 'object' && Object.hasOwn(value, part)
      ? (value as Record<string, unknown>)[part]
      : ''
  return typeof text === 'string' ? text : ''
}

function sentenceFor(error: z.ZodError): string {
  const [issue] = error.issues
  return `${issue?.path.join('.') ?? ''} ${issue?.message ?? 'cannot be read'}`.trim()
}

/** The body as the schema has it, or the answer that says what is wrong with it. */
async function readJson<Schema extends z.ZodType>(c: Context, schema: Schema): Promise<z.infer<Schema> | Response> {
  let value: unknown
  try {
    value = await c.req.json()
  } catch {
    return sendProblem(c, { status: 400, title: 'Not JSON', detail: 'The body could not be read as JSON.' })
  }
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  const errors = parsed.error.issues
    .slice(0, 20)
    .map((issue) => ({ field: issue.path.join('.'), code: issue.code, message: issue.message }))
  return sendProblem(c, {
    status: 422,
    title: 'The body is not as described',
    detail: errors[0]?.message ?? '',
    errors,
  })
}
