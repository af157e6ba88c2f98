import { OpenAPIHono } from '@hono/zod-openapi'
import type { Context, MiddlewareHandler } from 'hono'
import { cors } from 'hono/cors'
import { HTTPException } from 'hono/http-exception'
import { z } from 'zod'
import { KEY_WITHDRAWN } from '#core/api'
import { commandSchema } from '#core/journal'
import { changeSchema } from '#core/sync'
import { mustAllow } from '../http/bearer'
import { sendProblem, tooManyRequests } from '../http/problem'
import { visitorAddress } from '../http/visitor-address'
import { boundedJson } from '../http/read-body'
import { addressLimiter, type Limiter } from '../limits'
import { keyReader, pairRoute } from '../secrets/api'
import { UnstorableText } from '../store'
import type { ReceiverParts, Subject } from '../subject'
import { notAsDescribed } from '../http/answers'

/** Owners may be on a slow line. */
const LONGEST_BODY_MS = 110_000

/** An owner's house may have several browsers; who guesses has no chance, and little time. */
const PAIRINGS_A_MINUTE = 20
const DESCRIPTIONS_A_MINUTE = 60

/** `/api/…`: the owner's side. Every path needs a key, but the description of them all, and the exchange of a code for one. */
export function apiRoutes(parts: ReceiverParts, subjects: readonly Subject[]) {
  const { keys, settings, metrics } = parts
  const bearerIn = keyReader(parts)
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
  const limited =
    (limiter: Limiter): MiddlewareHandler =>
    (c, next) => {
      const visitor = visitorAddress(c, settings.trustedProxies)
      const waitSeconds = limiter.take(visitor)
      if (waitSeconds === 0) return next()
      metrics.refusedNetworks.note(visitor)
      return Promise.resolve(sendProblem(c, tooManyRequests(waitSeconds)))
    }
  routes.use('/openapi.json', limited(addressLimiter(DESCRIPTIONS_A_MINUTE)))
  for (const [name, schema] of Object.entries({ Command: commandSchema, Change: changeSchema }))
    routes.openAPIRegistry.registerComponent(
      'schemas',
      name,
      z.toJSONSchema(schema, { unrepresentable: 'any' }) as object,
    )
  routes.openAPIRegistry.registerComponent('securitySchemes', 'ownerKey', { type: 'http', scheme: 'bearer' })
  const about = {
    openapi: '3.1.0',
    info: {
      title: 'Ask Box receiver',
      version: '1',
      description: 'The owner’s side. Problems come as application/problem+json (RFC 9457).',
    },
    servers: [{ url: settings.publicUrl }],
    security: [{ ownerKey: [] }],
  }
  // Made once: it takes some hundred milliseconds.
  let description: string | null = null
  routes.get('/openapi.json', (c) => {
    description ??= JSON.stringify(routes.getOpenAPI31Document(about))
    return c.body(description, 200, { 'Content-Type': 'application/json' })
  })
  // Whoever asks this has no key yet: little is read of them.
  routes.use('/pair', limited(addressLimiter(PAIRINGS_A_MINUTE)), boundedJson({ bytes: 4 * 1024 }))
  pairRoute(routes, keys)
  routes.use('*', async (c, next) => {
    c.header('Cache-Control', 'no-store')
    const bearer = await bearerIn(c)
    if (bearer === 'too-many') return sendProblem(c, tooManyRequests(60))
    if (bearer === 'withdrawn')
      return sendProblem(c, {
        status: 401,
        title: 'This key was withdrawn',
        detail: 'Its owner withdrew this key. A browser that has it empties itself.',
        errors: [{ field: '', code: KEY_WITHDRAWN, message: 'This key was withdrawn.' }],
        headers: { 'WWW-Authenticate': 'Bearer error="invalid_token"' },
      })
    if (bearer !== null) {
      c.set('bearer', bearer)
      return mustAllow(c, next)
    }
    return sendProblem(c, {
      status: 401,
      title: 'The owner’s key is needed',
      detail: 'Send the owner’s key as “Authorization: Bearer <key>”.',
      headers: { 'WWW-Authenticate': 'Bearer' },
    })
  })
  // No id has it, and none of it could be looked up.
  routes.use('*', (c, next) => (c.req.url.includes('%00') ? Promise.resolve(noSuchPath(c)) : next()))
  for (const { uploads } of subjects) uploads?.(routes, parts)
  routes.use('*', boundedJson({ bytes: 16 * 1024 * 1024, ms: LONGEST_BODY_MS }))

  for (const subject of subjects) subject.routes?.(routes, parts, subjects)
  routes.all('*', noSuchPath)
  return routes
}

function noSuchPath(c: Context): Response {
  return sendProblem(c, { status: 404, title: 'No such path', detail: 'See /api/openapi.json for what there is.' })
}
