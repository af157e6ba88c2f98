import { z } from 'zod'
import { journalIdSchema } from '#core/ids'
import { commandSchema, entrySchema } from '#core/journal'
import { publishedSchema } from '#core/workspace'

export const commandsBody = z.strictObject({ commands: z.array(commandSchema).max(1000) })
export const refillBody = z.strictObject({ journal: journalIdSchema, entries: z.array(entrySchema).max(5000) })

const outcome = z.union([
  z.object({ id: z.string(), ok: z.literal(true), n: z.int() }),
  z.object({ id: z.string(), ok: z.literal(false), problem: z.object({ code: z.string(), message: z.string() }) }),
])

interface Path {
  method: 'get' | 'post' | 'put'
  path: string
  summary: string
  query?: Record<string, string>
  body?: z.ZodType
  answer: z.ZodType
  mediaType?: string
}

const paths: Path[] = [
  {
    method: 'get',
    path: '/api/receiver',
    summary: 'Which receiver this is: its journal, the number of its newest entry, how visitors reach it.',
    answer: z.object({ journal: journalIdSchema, latest: z.int(), publicUrl: z.url() }),
  },
  {
    method: 'get',
    path: '/api/journal',
    summary: 'Journal entries above a number, oldest first, at most 1000.',
    query: { after: 'The last number already known; 0 for all.', limit: 'At most this many.' },
    answer: z.object({ journal: journalIdSchema, entries: z.array(entrySchema), latest: z.int() }),
  },
  {
    method: 'get',
    path: '/api/stream',
    summary: 'One line of JSON at each news, an empty object as a sign of life. Stays open.',
    answer: z.object({ latest: z.int().optional() }),
    mediaType: 'application/x-ndjson',
  },
  {
    method: 'post',
    path: '/api/commands',
    summary: 'Carries out changes to people, each at most once however often it is sent.',
    body: commandsBody,
    answer: z.object({ outcomes: z.array(outcome) }),
  },
  { method: 'get', path: '/api/published', summary: 'Everything that was published.', answer: publishedSchema },
  {
    method: 'put',
    path: '/api/published',
    summary: 'Publishes: replaces sites, lists, forms and spots by id, adds versions. A version never changes; 409 if it would.',
    body: publishedSchema,
    answer: z.object({ ok: z.literal(true) }),
  },
  {
    method: 'post',
    path: '/api/refill',
    summary: 'Continues an empty or partly refilled journal from a copy of it. 409 where the numbers do not follow.',
    body: refillBody,
    answer: z.object({ latest: z.int() }),
  },
]

/** The owner's API described: OpenAPI 3.1, made from the same schemas that check every body. */
export function openApiDocument(publicUrl: string): object {
  return {
    openapi: '3.1.0',
    info: { title: 'Ask Box receiver', version: '1', description: 'The owner’s side. Problems come as application/problem+json (RFC 9457).' },
    servers: [{ url: publicUrl }],
    security: [{ ownerKey: [] }],
    components: { securitySchemes: { ownerKey: { type: 'http', scheme: 'bearer' } } },
    paths: Object.fromEntries(
      [...new Set(paths.map(({ path }) => path))].map((path) => [
        path,
        Object.fromEntries(paths.filter((one) => one.path === path).map((one) => [one.method, describe(one)])),
      ]),
    ),
  }
}

function describe({ summary, query, body, answer, mediaType = 'application/json' }: Path): object {
  return {
    summary,
    ...(query && {
      parameters: Object.entries(query).map(([name, description]) => ({ name, in: 'query', description, schema: { type: 'integer', minimum: 0 } })),
    }),
    ...(body && { requestBody: { required: true, content: { 'application/json': { schema: z.toJSONSchema(body, { unrepresentable: 'any' }) } } } }),
    responses: {
      200: { description: 'Done.', content: { [mediaType]: { schema: z.toJSONSchema(answer, { unrepresentable: 'any' }) } } },
      401: { description: 'The owner’s key is missing or wrong.' },
    },
  }
}
