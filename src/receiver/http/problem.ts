import type { Context } from 'hono'
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import { noticePage } from '#core/render'
import { sendPage } from '../pages'

/** One thing wrong with one field, as the public contract lists them. `field` is empty for the body as a whole. */
export interface ProblemError {
  field: string
  code: string
  message: string
}

export interface Problem {
  status: ContentfulStatusCode
  title: string
  detail: string
  errors?: ProblemError[]
  /** What a browser has to solve first. */
  puzzle?: unknown
  headers?: Record<string, string>
}

/** Answers with a problem document: RFC 9457, `application/problem+json`; its type is `about:blank` (section 4.2.1). */
export function sendProblem(c: Context, { status, title, detail, errors, puzzle, headers }: Problem): Response {
  const document = {
    type: 'about:blank',
    title,
    status,
    detail,
    ...(errors && { errors }),
    ...(puzzle !== undefined && { puzzle }),
  }
  return c.body(JSON.stringify(document), status, {
    'Content-Type': 'application/problem+json',
    'Cache-Control': 'no-store',
    ...headers,
  })
}

/** More than its share was asked from one place. */
export function tooManyRequests(waitSeconds: number): Problem & { status: 429 } {
  return {
    status: 429,
    title: 'Too many requests from one place',
    detail: `Try again in ${waitSeconds} seconds.`,
    headers: { 'Retry-After': String(waitSeconds) },
  }
}

/** The same, as a page, to a visitor's browser that posted a plain form. */
export function sendProblemPage(c: Context, { status, title, detail, headers }: Problem): Response {
  return sendPage(c, '', noticePage(title, detail), { posts: 'nothing', status, headers })
}
