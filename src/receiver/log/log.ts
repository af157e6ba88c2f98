import { withoutAddresses } from '#core/text'
import type { Context } from 'hono'
import pino from 'pino'

/**
 * How this receiver tells what happens in it: as one JSON object a line on standard error (`json`), with a line for each
 * request as well (`requests`), or as plain text for whoever looks at a screen (`text`).
 */
export const logFormats = ['json', 'requests', 'text'] as const
export type LogFormat = (typeof logFormats)[number]

/** Numbers of requests, given when the first is told of it: following each through its promises would cost every sign-up. */
const numbers = new WeakMap<Request, string>()
/** Of this process: numbers of several receivers are told apart. */
const process4 = Math.floor(Math.random() * 36 ** 4)
  .toString(36)
  .padStart(4, '0')
let count = 0

/** The number in the log of the request that is answered, such as `k3f9-128`. */
export function requestNumber(c: Context): string {
  // eslint-disable-next-line no-restricted-syntax -- which request it is; nothing is read of it
  return numberOf(c.req.raw)
}

function numberOf(request: Request): string {
  const number = numbers.get(request) ?? `${process4}-${++count}`
  numbers.set(request, number)
  return number
}

let format: LogFormat = 'text'
let lines: pino.Logger | null = null

/** @param sink where lines go; standard error where it is not said */
export function openLog(
  wanted: LogFormat,
  sink: pino.DestinationStream = pino.destination({ fd: 2, sync: true }),
): void {
  format = wanted
  lines =
    wanted === 'text'
      ? null
      : pino(
          {
            base: { process: process4 },
            timestamp: pino.stdTimeFunctions.isoTime,
            formatters: { level: (level) => ({ level }) },
          },
          sink,
        )
}

/** Tells of something that is no fault. @param facts sums, names and times; nothing of anybody */
export function tell(what: string, facts: Record<string, string | number | boolean> = {}): void {
  if (lines !== null) lines.info(facts, what)
}

/** Answers a request, and tells of it where that is wanted. */
export function asRequest(request: Request, answer: () => Response | Promise<Response>): Response | Promise<Response> {
  return format === 'requests' ? answerAndTell(request, answer) : answer()
}

async function answerAndTell(request: Request, answer: () => Response | Promise<Response>): Promise<Response> {
  const begun = performance.now()
  const response = await answer()
  const ms = Math.round((performance.now() - begun) * 10) / 10
  const { method, url } = request
  tell('request', { request: numberOf(request), method, path: pathWithoutIds(url), status: response.status, ms })
  return response
}

/** `/join` of `/join/4kdm`, `/api/members` of `/api/members/9f/handed`: ids and tokens are somebody's. */
function pathWithoutIds(url: string): string {
  const path = url.replace(/^[a-z]+:\/\/[^/]*/, '')
  return /^\/(?:api\/)?[\w.-]*/.exec(path)?.[0] ?? '/'
}

const AGAIN_AFTER_MS = 60_000
/** Of few kinds; the oldest are forgotten. */
const MOST_KINDS = 100
const saidAt = new Map<string, number>()

/**
 * Tells what went wrong, and the same at most once a minute: a full disk is met by every sign-up.
 *
 * @param of the request that it is about
 */
export function complain(error: unknown, of?: Context, say: (what: unknown, of?: Context) => void = sayError): void {
  const kind =
    error instanceof Error ? `${error.name} ${(error as { code?: string }).code ?? error.message}` : String(error)
  const before = saidAt.get(kind)
  const now = performance.now()
  if (before !== undefined && now - before < AGAIN_AFTER_MS) return
  if (saidAt.size >= MOST_KINDS) saidAt.clear()
  saidAt.set(kind, now)
  say(error, of)
}

function sayError(error: unknown, of?: Context): void {
  if (lines === null) return console.error(error)
  const request = of === undefined ? {} : { request: requestNumber(of) }
  if (!(error instanceof Error)) return lines.warn(request, withoutAddresses(String(error)))
  const { code } = error as { code?: unknown }
  // Whatever else an error carries (rows, parameters, whole messages) may be about somebody.
  lines.error(
    {
      ...request,
      error: error.name,
      ...(code !== undefined && { code: String(code) }),
      stack: withoutAddresses(error.stack ?? ''),
    },
    withoutAddresses(error.message),
  )
}
