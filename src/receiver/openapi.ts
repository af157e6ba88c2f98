import { z } from 'zod'
import { journalIdSchema } from '#core/ids'
import { entrySchema } from '#core/journal'
import { pictureSchema } from '#core/picture'
import { changeSchema, kinds } from '#core/sync'

/** Commands are read one by one: one that cannot be read is refused by itself. */
export const commandsBody = z.strictObject({ commands: z.array(z.unknown()).max(1000) })
export const changesBody = z.strictObject({ changes: z.array(z.unknown()).max(200) })
export const refillBody = z.strictObject({ journal: journalIdSchema, entries: z.array(entrySchema).max(5000) })
export const recoverBody = z.strictObject({ common: z.int().min(0), entries: z.array(entrySchema).max(5000) })

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
const page = { cursor: z.int(), mark: z.string(), latest: z.int() }
const after = {
  after: 'The cursor: the last number already known; 0 for all.',
  mark: 'The mark that came with the cursor. 409 when this history has another one there.',
}

interface Path {
  method: 'get' | 'post' | 'put'
  path: string
  summary: string
  query?: Record<string, string>
  body?: z.ZodType
  /** What the body is described by, where it is read more leniently than it is meant. */
  describes?: z.ZodType
  answer: z.ZodType
  mediaType?: string
}

const paths: Path[] = [
  {
    method: 'get',
    path: '/api/receiver',
    summary:
      'Which receiver this is: its journal, the numbers of its newest entry and its newest change, how visitors reach it.',
    answer: z.object({ journal: journalIdSchema, latest: z.int(), latestChange: z.int(), publicUrl: z.url() }),
  },
  {
    method: 'get',
    path: '/api/journal',
    summary: 'Journal entries after a cursor, oldest first, at most 5000.',
    query: { ...after, limit: 'At most this many.' },
    answer: z.object({ journal: journalIdSchema, entries: z.array(entrySchema), ...page }),
  },
  {
    method: 'get',
    path: '/api/stream',
    summary: 'One line of JSON at each news, an empty object as a sign of life. Stays open.',
    answer: z.object({ latest: z.int().optional(), latestChange: z.int().optional() }),
    mediaType: 'application/x-ndjson',
  },
  {
    method: 'post',
    path: '/api/commands',
    summary:
      'Carries out changes to people, each at most once however often it is sent, each with an outcome of its own.',
    body: commandsBody,
    answer: z.object({ outcomes: z.array(outcome) }),
  },
  {
    method: 'get',
    path: '/api/objects',
    summary:
      'What the owner makes (sites, lists, forms with drafts, versions, spots, themes, pictures without their bytes), as far as it changed after a cursor. A null body was taken away.',
    query: { ...after, limit: 'At most this many.' },
    answer: z.object({
      journal: journalIdSchema,
      objects: z.array(z.object({ kind: z.enum(kinds), key: z.string(), revision: z.int(), body: z.unknown() })),
      ...page,
    }),
  },
  {
    method: 'post',
    path: '/api/changes',
    summary:
      'Takes in changes to what the owner makes, each with an outcome of its own: the new revision, the conflict with what somebody else changed, or what is wrong with it. A version never changes.',
    body: changesBody,
    describes: z.strictObject({ changes: z.array(changeSchema).max(200) }),
    answer: z.object({ outcomes: z.array(changeOutcome) }),
  },
  { method: 'get', path: '/api/pictures/{id}', summary: 'A picture with its bytes.', answer: pictureSchema },
  {
    method: 'put',
    path: '/api/pictures/{id}',
    summary: 'Keeps a picture’s bytes. Its id is the beginning of their SHA-256.',
    body: pictureSchema,
    answer: z.object({ ok: z.literal(true) }),
  },
  {
    method: 'post',
    path: '/api/refill',
    summary:
      'Continues an empty or partly refilled journal from a copy of it. 409 where the numbers do not follow, or where an entry cannot.',
    body: refillBody,
    answer: z.object({ latest: z.int() }),
  },
  {
    method: 'post',
    path: '/api/recover',
    summary:
      'Takes in again, under new numbers, what a copy of the journal has after the last entry that both have in common.',
    body: recoverBody,
    answer: z.object({ latest: z.int(), taken: z.int(), left: z.int() }),
  },
]

/** The owner's API described: OpenAPI 3.1, made from the same schemas that check every body. */
export function openApiDocument(publicUrl: string): object {
  return {
    openapi: '3.1.0',
    info: {
      title: 'Ask Box receiver',
      version: '1',
      description: 'The owner’s side. Problems come as application/problem+json (RFC 9457).',
    },
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

function describe({ summary, path, query, body, describes, answer, mediaType = 'application/json' }: Path): object {
  return {
    summary,
    parameters: [
      ...[...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
        name,
        in: 'path',
        required: true,
        schema: { type: 'string' },
      })),
      ...Object.entries(query ?? {}).map(([name, description]) => ({
        name,
        in: 'query',
        description,
        schema: name === 'mark' ? { type: 'string' } : { type: 'integer', minimum: 0 },
      })),
    ],
    ...(body && {
      requestBody: {
        required: true,
        content: { 'application/json': { schema: z.toJSONSchema(describes ?? body, { unrepresentable: 'any' }) } },
      },
    }),
    responses: {
      200: {
        description: 'Done.',
        content: { [mediaType]: { schema: z.toJSONSchema(answer, { unrepresentable: 'any' }) } },
      },
      401: { description: 'The owner’s key is missing or wrong.' },
    },
  }
}
