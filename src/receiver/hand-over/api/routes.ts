import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import {
  askedSchema,
  askSchema,
  comparedStandings,
  comparisonSchema,
  connectionStateSchema,
  handedSchema,
  handOverStateSchema,
  keySchema,
  outsideSchema,
  refusedSchema,
  triedHandOverSchema,
  tryHandOverSchema,
} from '#core/api'
import { serviceFileSchema } from '#core/connection'
import { connectionIdSchema, handOverIdSchema, memberIdSchema } from '#core/ids'
import { answers, body, done, problem, readings, refused } from '../../http/answers'

const connection = z.object({ id: connectionIdSchema })
const handOver = z.object({ id: handOverIdSchema })
const unknown = { 404: problem('There is no such thing here, or not yet.') }

export const readOutside = createRoute({
  method: 'get',
  path: '/outside',
  summary: 'How connections and hand-overs stand, and which service files ship.',
  responses: { ...answers, 200: done(outsideSchema) },
})

export const keepKey = createRoute({
  method: 'put',
  path: '/connections/{id}/key',
  summary: 'Keeps the key of a connection, or takes it away. It is told to nobody.',
  request: { params: connection, ...body(keySchema) },
  responses: { ...answers, ...readings, ...unknown, 200: done(connectionStateSchema) },
})

export const goOnWith = createRoute({
  method: 'post',
  path: '/connections/{id}/go-on',
  summary: 'Tries all at once that waits for a connection.',
  request: { params: connection },
  responses: { ...answers, ...unknown, 200: done(connectionStateSchema) },
})

/** Long enough that it is not guessed from a file that was lost. */
const passphrase = z.string().min(8).max(500)

export const saveKeys = createRoute({
  method: 'post',
  path: '/connections/keys/save',
  summary: 'All keys of connections, under a passphrase, for a file of the owner’s.',
  request: body(z.strictObject({ passphrase })),
  responses: { ...answers, ...readings, 200: done(z.object({ sealed: z.string() })) },
})

export const openKeys = createRoute({
  method: 'post',
  path: '/connections/keys/open',
  summary: 'Takes keys in that were saved under a passphrase, for connections that are there.',
  request: body(z.strictObject({ passphrase, sealed: z.string().max(1_000_000) })),
  responses: { ...answers, ...readings, ...refused, 200: done(z.object({ count: z.int() })) },
})

export const askConnection = createRoute({
  method: 'post',
  path: '/connections/ask',
  summary: 'Asks a service one thing, with what was sent and answered: its key masked.',
  request: body(askSchema),
  responses: { ...answers, ...readings, 200: done(askedSchema) },
})

export const signInAt = createRoute({
  method: 'post',
  path: '/connections/{id}/sign-in',
  summary: 'Where the owner signs in at a service; its key is kept when the owner comes back.',
  request: {
    params: connection,
    ...body(z.strictObject({ service: serviceFileSchema, asked: z.record(z.string(), z.string()) })),
  },
  responses: { ...answers, ...readings, 200: done(z.object({ address: z.url() })) },
})

export const tryOut = createRoute({
  method: 'post',
  path: '/hand-overs/try',
  summary: 'Sends one made-up person over, looks them up, and takes them off again.',
  request: body(tryHandOverSchema),
  responses: { ...answers, ...readings, 200: done(triedHandOverSchema) },
})

export const beginHandingOver = createRoute({
  method: 'post',
  path: '/hand-overs/{id}/begin',
  summary: 'Hands over everybody who is on the list already.',
  request: { params: handOver },
  responses: { ...answers, ...unknown, 200: done(handOverStateSchema) },
})

export const handOverAgain = createRoute({
  method: 'post',
  path: '/hand-overs/{id}/again',
  summary: 'Hands some over once more; without members, all who were refused.',
  request: { params: handOver, ...body(z.strictObject({ members: z.array(memberIdSchema).max(1000).optional() })) },
  responses: { ...answers, ...readings, ...unknown, 200: done(handOverStateSchema) },
})

export const listRefused = createRoute({
  method: 'get',
  path: '/hand-overs/{id}/refused',
  summary: 'Who was refused for good, in the service’s words; newest first, at most 200.',
  request: { params: handOver },
  responses: { ...answers, ...unknown, 200: done(z.object({ handed: z.array(refusedSchema) })) },
})

export const handedOf = createRoute({
  method: 'get',
  path: '/members/{member}/handed',
  summary: 'What of somebody went where, and what was answered.',
  request: { params: z.object({ member: memberIdSchema }) },
  responses: { ...answers, 200: done(z.object({ handed: z.array(handedSchema) })) },
})

export const beginComparing = createRoute({
  method: 'post',
  path: '/hand-overs/{id}/compare',
  summary: 'Begins to compare our list and the service’s.',
  request: { params: handOver },
  responses: { ...answers, ...unknown, 200: done(comparisonSchema) },
})

export const readComparison = createRoute({
  method: 'get',
  path: '/hand-overs/{id}/compare',
  summary: 'How far comparing is, and what it found.',
  request: { params: handOver },
  responses: { ...answers, 200: done(comparisonSchema) },
})

export const stopComparing = createRoute({
  method: 'post',
  path: '/hand-overs/{id}/compare/stop',
  summary: 'Ends comparing, and forgets what it found.',
  request: { params: handOver },
  responses: { ...answers, 200: done(comparisonSchema) },
})

export const mend = createRoute({
  method: 'post',
  path: '/hand-overs/{id}/mend',
  summary: 'Hands those over once more whom comparing found, so that they are there as here.',
  request: { params: handOver, ...body(z.strictObject({ standing: z.enum(comparedStandings) })) },
  responses: { ...answers, ...readings, ...unknown, 200: done(z.object({ count: z.int() })) },
})

export const foundPeople = createRoute({
  method: 'get',
  path: '/hand-overs/{id}/found/{standing}',
  summary: 'All whom comparing found with a standing.',
  request: { params: handOver.extend({ standing: z.enum(comparedStandings) }) },
  responses: { ...answers, 200: done(z.object({ people: comparisonSchema.shape.people })) },
})
