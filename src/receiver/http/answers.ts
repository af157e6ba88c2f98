import type { Context, TypedResponse } from 'hono'
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import type { z } from 'zod'
import type { ProblemBody } from './described'
import { type Problem, sendProblem } from './problem'

/** A problem document, typed as the answer that its route is described with. */
export function refused<Status extends ContentfulStatusCode>(c: Context, problem: Problem & { status: Status }) {
  return sendProblem(c, problem) as Response & TypedResponse<ProblemBody, Status, 'json'>
}

/** What is no JSON, typed as the answer that its route is described with. */
export function bytesAs<Answer>(c: Context, body: ReadableStream | string, type: string) {
  const answer: Response = c.body(body, 200, { 'Content-Type': type })
  return answer as Response & TypedResponse<Answer, 200, 'json'>
}

export function conflict(c: Context, title: string, { code, message }: { code: string; message: string }) {
  return refused(c, { status: 409, title, detail: message, errors: [{ field: '', code, message }] })
}

export function notAsDescribed(c: Context, error: z.core.$ZodError) {
  const errors = error.issues
    .slice(0, 20)
    .map(({ path, code, message }) => ({ field: path.join('.'), code: code ?? 'invalid', message }))
  return refused(c, {
    status: 422,
    title: 'The body is not as described',
    detail: errors[0]?.message ?? '',
    errors,
  })
}
