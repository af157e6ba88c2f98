import type { Context, TypedResponse } from 'hono'
import type { StatusCode } from 'hono/utils/http-status'
import { z } from 'zod'
import { sendProblem } from './problem'

/** What the routes of the owner's API are described with, and the problems that several of them answer. */
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
export const refused = { 409: problem('It contradicts what is here.') }

/** A problem, typed as the answer that its route is described with. */
export function typed<Status extends StatusCode>(response: Response, _status: Status) {
  return response as Response & TypedResponse<ProblemBody, Status, 'json'>
}

export function conflict(c: Context, title: string, { code, message }: { code: string; message: string }) {
  return typed(sendProblem(c, { status: 409, title, detail: message, errors: [{ field: '', code, message }] }), 409)
}

export function notAsDescribed(c: Context, error: z.core.$ZodError): Response {
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
