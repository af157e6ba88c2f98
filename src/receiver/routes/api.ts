import { type Context, Hono } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import { cors } from 'hono/cors'
import { stream } from 'hono/streaming'
import type { z } from 'zod'
import { commandsBody, openApiDocument, refillBody } from '../openapi'
import { isSameKey } from '../owner-key'
import { sendProblem } from '../problem'
import type { Settings } from '../settings'
import type { Store } from '../store'
import { publishedSchema } from '#core/workspace'

/** How often a quiet stream shows that it is alive. Proxies often cut connections after 60 s of silence. */
const HEARTBEAT_MS = 20_000
const MAX_ENTRIES = 1000

/** `/api/…`: the owner's side. Every path needs the owner's key, but the description of them all. */
export function apiRoutes(store: Store, settings: Settings, ownerKey: string): Hono {
  const routes = new Hono().basePath('/api')
  // The key travels in a header that no browser adds by itself, so any origin may ask: a workshop can be paired from elsewhere.
  routes.use('*', cors({ origin: '*', allowHeaders: ['Authorization', 'Content-Type'], allowMethods: ['GET', 'POST', 'PUT'], maxAge: 86_400 }))
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

  routes.get('/receiver', (c) => c.json({ journal: store.journalId, latest: store.latest(), publicUrl: settings.publicUrl }))

  routes.get('/journal', async (c) => {
    const after = wholeNumber(c.req.query('after'))
    const entries = await store.entriesAfter(after, Math.min(wholeNumber(c.req.query('limit')) || MAX_ENTRIES, MAX_ENTRIES))
    return c.json({ journal: store.journalId, entries, latest: store.latest() })
  })

  routes.get('/stream', (c) => {
    c.header('Content-Type', 'application/x-ndjson')
    return stream(c, async (out) => {
      let wake = () => {}
      let isOpen = true
      out.onAbort(() => {
        isOpen = false
        wake()
      })
      const stopListening = store.onNews(() => wake())
      try {
        let told = -1
        while (isOpen) {
          const latest = store.latest()
          const woken = new Promise<void>((resolve) => (wake = resolve))
          await out.writeln(latest === told ? '{}' : JSON.stringify({ latest }))
          told = latest
          if (store.latest() !== told) continue
          const timer = setTimeout(wake, HEARTBEAT_MS)
          await woken
          clearTimeout(timer)
        }
      } finally {
        stopListening()
      }
    })
  })

  routes.post('/commands', async (c) => {
    const body = await readJson(c, commandsBody)
    return body instanceof Response ? body : c.json({ outcomes: await store.carryOut(body.commands) })
  })

  routes.get('/published', (c) => c.json(store.published().all()))

  routes.put('/published', async (c) => {
    const body = await readJson(c, publishedSchema)
    if (body instanceof Response) return body
    const result = await store.publish(body)
    return result.ok ? c.json({ ok: true }) : sendProblem(c, { status: 409, title: 'Not published', detail: result.message, errors: [{ field: '', code: result.code, message: result.message }] })
  })

  routes.post('/refill', async (c) => {
    const body = await readJson(c, refillBody)
    if (body instanceof Response) return body
    const result = await store.refill(body.journal, body.entries)
    return result.ok
      ? c.json({ latest: result.latest })
      : sendProblem(c, { status: 409, title: 'Not refilled', detail: result.message, errors: [{ field: '', code: result.code, message: result.message }] })
  })

  routes.all('*', (c) => sendProblem(c, { status: 404, title: 'No such path', detail: 'See /api/openapi.json for what there is.' }))
  return routes
}

function wholeNumber(text: string | undefined): number {
  return text !== undefined && /^\d{1,15}$/.test(text) ? Number(text) : 0
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
  const errors = parsed.error.issues.slice(0, 20).map((issue) => ({ field: issue.path.join('.'), code: issue.code, message: issue.message }))
  return sendProblem(c, { status: 422, title: 'The body is not as described', detail: errors[0]?.message ?? '', errors })
}
