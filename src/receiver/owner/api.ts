import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createReadStream, rmSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context, TypedResponse } from 'hono'
import type { StatusCode } from 'hono/utils/http-status'
import { cors } from 'hono/cors'
import { HTTPException } from 'hono/http-exception'
import { stream } from 'hono/streaming'
import { z } from 'zod'
import { commandSchema } from '#core/journal'
import { changeSchema, type Kind } from '#core/sync'
import type { Browsers } from '../browser'
import type { Clock } from '../clock'
import { type ChangeOutcome, type CommandOutcome, type Ledger, OTHER_HISTORY } from '../ledger'
import { isSameKey } from '../owner-key'
import { sendProblem } from '../problem'
import { boundedJson } from '../read-body'
import type { Care } from '../care'
import { careApiRoutes } from './care-api'
import { type MailApiParts, mailApiRoutes } from './mail-api'
import { uploadRoutes } from './uploads'
import { download, expireIn, mailsTo, OtherAction, rehearsalRequests, type Rehearsals } from '../rehearsal'
import type { Settings } from '../settings'
import { fetchPage, OutsideProblem } from '../outside'
import { UnstorableText } from '../store'
import {
  carryOutCommands,
  confirmClock,
  copyStore,
  downloadForRehearsal,
  endRehearsal,
  expireForRehearsal,
  mailsForRehearsal,
  fetchForRehearsal,
  lookUpForRehearsal,
  sendForRehearsal,
  startRehearsal,
  visitForRehearsal,
  describeBrowser,
  describeReceiver,
  fetchOnePage,
  followNews,
  keepPicture,
  type ProblemBody,
  readJournal,
  readObjects,
  readPicture,
  recover,
  refill,
  takeChanges,
} from './routes'

/** Whoever has the owner's key may be on a slow line. */
const LONGEST_BODY_MS = 110_000
/** How often a quiet stream shows that it is alive. Proxies often cut connections after 60 s of silence. */
const HEARTBEAT_MS = 20_000
/** Some 2 MB: a first pull of a long journal is bound by how fast a browser writes, and few large writes are faster. */
const MAX_ENTRIES = 5000
/** Forms with their drafts are the largest: some 10 KB each. */
const MAX_OBJECTS = 200

/** `/api/…`: the owner's side. Every path needs the owner's key, but the description of them all. */
export function apiRoutes(
  ledger: Ledger,
  settings: Settings,
  ownerKey: string,
  rehearsals: Rehearsals,
  mail: Omit<MailApiParts, 'ledger' | 'settings'>,
  clock: Clock,
  browsers: Browsers | null,
  care: Care,
) {
  const routes = new OpenAPIHono({
    defaultHook: (result, c) => (result.success ? undefined : notAsDescribed(c, result.error)),
  }).basePath('/api')
  routes.onError((error, c) => {
    if (error instanceof UnstorableText)
      return sendProblem(c, { status: 422, title: 'Text that cannot be stored', detail: error.message })
    if (!(error instanceof HTTPException) || error.status !== 400) throw error
    return sendProblem(c, { status: 400, title: 'Not JSON', detail: 'The body could not be read as JSON.' })
  })
  // The key travels in a header that no browser adds by itself, so any origin may ask: a workshop can be paired from elsewhere.
  routes.use(
    '*',
    cors({
      origin: '*',
      allowHeaders: ['Authorization', 'Content-Type'],
      allowMethods: ['GET', 'POST', 'PUT'],
      // By it the workshop sees whether the clocks agree.
      exposeHeaders: ['Date'],
      maxAge: 86_400,
    }),
  )
  for (const [name, schema] of Object.entries({ Command: commandSchema, Change: changeSchema }))
    routes.openAPIRegistry.registerComponent(
      'schemas',
      name,
      z.toJSONSchema(schema, { unrepresentable: 'any' }) as object,
    )
  routes.openAPIRegistry.registerComponent('securitySchemes', 'ownerKey', { type: 'http', scheme: 'bearer' })
  routes.doc31('/openapi.json', {
    openapi: '3.1.0',
    info: {
      title: 'Ask Box receiver',
      version: '1',
      description: 'The owner’s side. Problems come as application/problem+json (RFC 9457).',
    },
    servers: [{ url: settings.publicUrl }],
    security: [{ ownerKey: [] }],
  })
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
  // No id has it, and none of it could be looked up.
  routes.use('*', (c, next) => (c.req.url.includes('%00') ? Promise.resolve(noSuchPath(c)) : next()))
  uploadRoutes(routes, ledger, mail.gifts)
  routes.use('*', boundedJson({ bytes: 16 * 1024 * 1024, ms: LONGEST_BODY_MS }))

  routes.openapi(describeReceiver, async (c) =>
    c.json(
      {
        journal: await ledger.journalId(),
        latest: await ledger.latest(),
        latestChange: await ledger.latestChange(),
        publicUrl: settings.publicUrl,
        leap: clock.leap(),
      },
      200,
    ),
  )
  routes.openapi(describeBrowser, async (c) => c.json((await browsers?.state()) ?? { state: 'none' as const }, 200))
  routes.openapi(confirmClock, (c) => {
    clock.confirm()
    return c.json({ leap: clock.leap() }, 200)
  })

  routes.openapi(readJournal, async (c) => {
    const { after, mark = null, limit } = c.req.valid('query')
    const page = await ledger.entriesAfter(after, mark, Math.min(limit || MAX_ENTRIES, MAX_ENTRIES))
    if (page === null) return otherHistory(c)
    const { items: entries, ...rest } = page
    return c.json({ journal: await ledger.journalId(), entries, ...rest }, 200)
  })

  routes.openapi(readObjects, async (c) => {
    const { after, mark = null, limit } = c.req.valid('query')
    const page = await ledger.objectsAfter(after, mark, Math.min(limit || MAX_OBJECTS, MAX_OBJECTS))
    if (page === null) return otherHistory(c)
    const { items: objects, ...rest } = page
    return c.json({ journal: await ledger.journalId(), objects, ...rest }, 200)
  })

  routes.openAPIRegistry.registerPath(followNews)
  routes.get(followNews.path, (c) => {
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
        const news = async () =>
          JSON.stringify({ latest: await ledger.latest(), latestChange: await ledger.latestChange() })
        while (isOpen) {
          const woken = new Promise<void>((resolve) => (wake = resolve))
          const latest = await news()
          await out.writeln(latest === told ? '{}' : latest)
          told = latest
          if ((await news()) !== told) continue
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
  routes.openapi(fetchOnePage, async (c) => {
    try {
      return c.json(
        await fetchPage(c.req.valid('json').address, settings.standIns === null ? [] : [settings.standIns]),
        200,
      )
    } catch (error) {
      if (!(error instanceof OutsideProblem)) throw error
      return sendProblem(c, { status: 502, title: 'The page could not be fetched', detail: error.message }) as never
    }
  })

  const noRehearsal = (c: Context) =>
    typed(
      sendProblem(c, { status: 404, title: 'No such rehearsal', detail: 'It has ended, or there never was one.' }),
      404,
    )
  const asProblem = (c: Context, error: unknown) => {
    if (error instanceof OtherAction)
      return sendProblem(c, {
        status: 403,
        title: 'Another address',
        detail: 'The form sends to somewhere else than this receiver, and nothing is posted there.',
      }) as never
    if (!(error instanceof OutsideProblem)) throw error
    return sendProblem(c, { status: 502, title: 'No answer', detail: error.message }) as never
  }
  routes.openapi(startRehearsal, async (c) => {
    const { spot, byHand } = c.req.valid('json')
    const started = await rehearsals.start(spot, byHand === true ? 'byHand' : 'byItself')
    return started === null
      ? typed(
          sendProblem(c, {
            status: 429,
            title: 'Too many rehearsals',
            detail: 'Twenty go on at once already. Wait until one ends.',
          }),
          429,
        )
      : c.json({ code: started.code, hasBrowser: browsers?.isThere() ?? false }, 200)
  })
  routes.openapi(visitForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    if (browsers === null) return c.json({ isTried: false, reason: 'There is no browser here.' }, 200)
    return c.json(await browsers.visit(code, c.req.valid('json')), 200)
  })
  routes.openapi(fetchForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    const { address, as } = c.req.valid('json')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    try {
      return c.json(await rehearsalRequests(settings, code).fetch(address, as), 200)
    } catch (error) {
      return asProblem(c, error)
    }
  })
  routes.openapi(sendForRehearsal, async (c) => {
    const { code } = c.req.valid('param')
    const { address, contentType, body, as } = c.req.valid('json')
    if ((await rehearsals.get(code)) === null) return noRehearsal(c)
    try {
      return c.json(
        await rehearsalRequests(settings, code).send(address, contentType, Buffer.from(body, 'base64'), as),
        200,
      )
    } catch (error) {
      return asProblem(c, error)
    }
  })
  routes.openapi(lookUpForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    return rehearsal === null ? noRehearsal(c) : c.json(await rehearsal.space.known(c.req.valid('query').email), 200)
  })
  routes.openapi(mailsForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    if (rehearsal === null) return noRehearsal(c)
    return c.json(await mailsTo(rehearsal, c.req.valid('query').email, mail.rehearsalMail), 200)
  })
  routes.openapi(downloadForRehearsal, async (c) => {
    if ((await rehearsals.get(c.req.valid('param').code)) === null) return noRehearsal(c)
    try {
      return c.json(await download(c.req.valid('json').address, settings), 200)
    } catch (error) {
      return asProblem(c, error)
    }
  })
  routes.openapi(expireForRehearsal, async (c) => {
    const rehearsal = await rehearsals.get(c.req.valid('param').code)
    if (rehearsal === null) return noRehearsal(c)
    await expireIn(rehearsal, c.req.valid('json').email)
    return c.json({ ok: true as const }, 200)
  })
  routes.openapi(endRehearsal, async (c) => {
    await rehearsals.end(c.req.valid('param').code)
    return c.json({ ok: true as const }, 200)
  })

  mailApiRoutes(routes, { ledger, settings, ...mail })
  careApiRoutes(routes, care)

  routes.openapi(copyStore, async (c) => {
    // Beside the store, which has room for what it holds and is its owner's alone.
    const file = join(settings.dataFolder, `copy-${randomUUID()}.sqlite`)
    try {
      await ledger.copyTo(file)
    } catch (error) {
      console.error(error)
      return sendProblem(c, {
        status: 507,
        title: 'No room for a copy',
        detail: 'The copy could not be written. Make room on the receiver’s disk and try again.',
      }) as never
    }
    const read = createReadStream(file)
    // From here on only this stream knows it: whatever ends, nothing of it is left.
    await once(read, 'open')
    rmSync(file, { force: true })
    return c.body(Readable.toWeb(read) as ReadableStream, 200, { 'Content-Type': 'application/vnd.sqlite3' }) as never
  })

  routes.openapi(carryOutCommands, async (c) => {
    const body = c.req.valid('json')
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
    return c.json({ outcomes: outcomes as CommandOutcome[] }, 200)
  })

  routes.openapi(takeChanges, async (c) => {
    const body = c.req.valid('json')
    const readings = body.changes.map((change) => ({
      about: { kind: textIn(change, 'kind'), key: textIn(change, 'key') },
      reading: changeSchema.safeParse(change),
    }))
    const changes = readings.flatMap(({ reading }) => (reading.success ? [reading.data] : []))
    const isWhole = changes.length === readings.length
    const done =
      body.together !== true
        ? await ledger.takeChanges(changes)
        : isWhole
          ? await ledger.takeChangesTogether(changes)
          : changes.map(({ kind, key }) => notTaken(kind, key))
    const outcomes = readings.map(({ about, reading }) =>
      reading.success
        ? done.shift()!
        : { ...about, ok: false, problem: { code: 'invalid', message: sentenceFor(reading.error) } },
    )
    return c.json({ outcomes: outcomes as ChangeOutcome[] }, 200)
  })

  routes.openapi(readPicture, async (c) => {
    const picture = await ledger.picture(c.req.valid('param').id)
    return picture === null
      ? typed(sendProblem(c, { status: 404, title: 'No such picture', detail: 'Its bytes were never sent here.' }), 404)
      : c.json(picture, 200)
  })

  routes.openapi(keepPicture, async (c) => {
    const picture = c.req.valid('json')
    const result =
      picture.id === c.req.valid('param').id
        ? await ledger.keepPicture(picture)
        : ({ ok: false, code: 'wrong-id', message: 'The picture is named otherwise in its own content.' } as const)
    return result.ok ? c.json({ ok: true as const }, 200) : conflict(c, 'Not kept', result)
  })

  routes.openapi(refill, async (c) => {
    const { journal, entries } = c.req.valid('json')
    const result = await ledger.refill(journal, entries)
    return result.ok ? c.json({ latest: result.latest }, 200) : conflict(c, 'Not refilled', result)
  })

  routes.openapi(recover, async (c) => {
    const { common, entries } = c.req.valid('json')
    return c.json(await ledger.recover(common, entries), 200)
  })

  routes.all('*', noSuchPath)
  return routes
}

function noSuchPath(c: Context): Response {
  return sendProblem(c, { status: 404, title: 'No such path', detail: 'See /api/openapi.json for what there is.' })
}

/** A problem, typed as the answer that its route is described with. */
function typed<Status extends StatusCode>(response: Response, _status: Status) {
  return response as Response & TypedResponse<ProblemBody, Status, 'json'>
}

function conflict(c: Context, title: string, { code, message }: { code: string; message: string }) {
  return typed(sendProblem(c, { status: 409, title, detail: message, errors: [{ field: '', code, message }] }), 409)
}

function otherHistory(c: Context) {
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

function notAsDescribed(c: Context, error: z.core.$ZodError): Response {
  const errors = error.issues
    .slice(0, 20)
    .map(({ path, code, message }) => ({ field: path.join('.'), code: code ?? 'invalid', message }))
  return sendProblem(c, {
    status: 422,
    title: 'The body is not as described',
    detail: errors[0]?.message ?? '',
    errors,
  })
}

/** The outcome of a change that is sound by itself and was sent together with one that is not. */
function notTaken(kind: Kind, key: string): ChangeOutcome {
  return {
    kind,
    key,
    ok: false,
    problem: { code: 'invalid', message: 'What it was sent together with cannot be read.' },
  }
}
