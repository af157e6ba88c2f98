import type { Context, TypedResponse } from 'hono'
import type { StatusCode } from 'hono/utils/http-status'
import type { z } from 'zod'
import type { ProblemBody } from './described'
import { sendProblem } from './problem'

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
