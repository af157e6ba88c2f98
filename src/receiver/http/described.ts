import { createRoute, type RouteConfig } from '@hono/zod-openapi'
import { z } from 'zod'
import type { Route } from '#core/api'

/** RFC 9457. */
const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  errors: z.array(z.object({ field: z.string(), code: z.string(), message: z.string() })).optional(),
})
export type ProblemBody = z.infer<typeof problemSchema>

type Content<Schema> = { 'application/json': { schema: Schema } }
type Part<One extends Route, Name extends 'params' | 'query'> = One extends { readonly [N in Name]: infer Schema }
  ? { [N in Name]: Schema }
  : object
type Body<One extends Route> = One extends { readonly body: infer Schema }
  ? { body: { content: Content<Schema>; required: true } }
  : object
type Problems<One extends Route> = {
  [Status in (keyof NonNullable<One['refusals']> & number) | 400 | 401 | 403 | 413 | 422]: {
    description: string
    content: { 'application/problem+json': { schema: typeof problemSchema } }
  }
}
type Described<One extends Route> = {
  method: One['method']
  path: One['path']
  request: Part<One, 'params'> & Part<One, 'query'> & Body<One>
  getRoutingPath(): string
  responses: { 200: { description: string; content: Content<One['answer']> } } & Problems<One>
}

const json = (schema: z.ZodType, type = 'application/json') => ({ content: { [type]: { schema } } })
const problem = (description: string) => ({ description, ...json(problemSchema, 'application/problem+json') })

/** A subject's part of the table of routes as Hono takes it, described by OpenAPI. */
export function described<Table extends Readonly<Record<string, Route>>>(
  table: Table,
): { [Name in keyof Table]: Described<Table[Name]> } {
  const all = Object.entries(table).map(([name, route]) => [name, createRoute(configOf(route))])
  return Object.fromEntries(all) as { [Name in keyof Table]: Described<Table[Name]> }
}

function configOf({
  method,
  path,
  summary,
  needs,
  params,
  query,
  body,
  takes,
  answer,
  type,
  refusals = {},
}: Route): RouteConfig {
  const problems = {
    ...(needs !== 'nothing' && { 401: 'The key is missing or wrong, or was withdrawn.' }),
    ...(needs !== 'nothing' && needs !== 'see' && { 403: 'The key does not allow it.' }),
    ...(body !== undefined && { 400: 'Not JSON.', 413: 'More than 16 MB at once.' }),
    ...((body !== undefined || query !== undefined || params !== undefined) && {
      422: 'What was sent is not as described.',
    }),
    ...refusals,
  }
  return {
    ...{ method, path, summary },
    ...(needs === 'nothing' && { security: [] }),
    request: {
      ...(params !== undefined && { params }),
      ...(query !== undefined && { query }),
      ...(body !== undefined && { body: { ...json(body, takes), required: true } }),
    },
    responses: {
      200: { description: 'Done.', ...json(answer, type) },
      ...Object.fromEntries(Object.entries(problems).map(([status, says]) => [status, problem(says)])),
    },
  }
}
