import type { IncomingMessage } from 'node:http'
import { Readable, Transform } from 'node:stream'
import type { ReadableStream } from 'node:stream/web'
import type { Context, MiddlewareHandler } from 'hono'
import { type Problem, sendProblem } from './problem'

/*
 * The one place where bodies of requests are read: bounded in bytes, in time and in the number of their parts, whatever
 * their headers say. The linter keeps every other place from reading one.
 */

export interface BodyBounds {
  /** The most that is taken. */
  bytes: number
  /** How long it may take to arrive; see `LONGEST_MS`. */
  ms?: number
}

export type BodyReading = { ok: true; bytes: Uint8Array; pairs: [string, unknown][] } | Refused

interface Refused {
  ok: false
  code: 'wrong-type' | 'too-large' | 'encoding' | 'malformed' | 'too-slow' | 'broken-off'
  message: string
}

/**
 * Reads a sign-up's body in any of the three types of the contract into pairs of name and value. Type and
 * size are checked before anything is parsed, and so is the encoding: bytes that are not UTF-8 are refused,
 * never replaced, because replaced characters would be stored as if somebody had typed them.
 *
 * @param limit largest size in bytes
 */
export async function readBody(c: Context, limit: number): Promise<BodyReading> {
  const type = (c.req.header('Content-Type') ?? '').trim()
  const parse = parsers.find(([pattern]) => pattern.test(type))?.[1]
  if (Number(c.req.header('Content-Length') ?? 0) > limit) return tooLarge
  if (parse === undefined || !isUtf8(type)) {
    return { ok: false, code: 'wrong-type', message: 'This content type is not taken.' }
  }
  const bytes = await readBytes(c, { bytes: limit })
  if (!(bytes instanceof Uint8Array)) return bytes
  try {
    const pairs = await parse(utf8.decode(bytes), bytes, type)
    return pairs === null || pairs.length > MOST_PARTS ? tooLarge : { ok: true, bytes, pairs }
  } catch (error) {
    return (error as { code?: unknown } | null)?.code === 'ERR_ENCODING_INVALID_ENCODED_DATA'
      ? { ok: false, code: 'encoding', message: 'The answers are not encoded as UTF-8.' }
      : { ok: false, code: 'malformed', message: 'The answers could not be read.' }
  }
}

/** What a small form on a page of ours sends, texts by name; nothing of what is none. A mail program's post of RFC 8058 may be multipart. */
export async function readSmallForm(c: Context): Promise<Map<string, string>> {
  const body = await readBody(c, SMALL_FORM_BYTES)
  if (!body.ok) return new Map()
  return new Map(body.pairs.filter((pair): pair is [string, string] => typeof pair[1] === 'string'))
}

/** The body as a stream, for large uploads; errors beyond its bounds. */
export function readStream(c: Context, { bytes, ms = LONGEST_MS }: BodyBounds): Readable | null {
  const incoming = incomingOf(c)
  const source = incoming ?? (c.req.raw.body === null ? null : Readable.fromWeb(c.req.raw.body as ReadableStream))
  if (source === null) return null
  let size = 0
  const bounded = new Transform({
    transform(chunk: Buffer, _, done) {
      size += chunk.length
      if (size > bytes) done(new BodyTooLarge())
      else done(null, chunk)
    },
  })
  const timer = setTimeout(() => bounded.destroy(new Error('The body did not arrive in time.')), ms)
  source.once('error', (error) => bounded.destroy(error))
  source.once('close', () => bounded.writableEnded || bounded.destroy(new Error('The body broke off.')))
  bounded.once('close', () => {
    clearTimeout(timer)
    source.unpipe(bounded)
  })
  return source.pipe(bounded)
}

export class BodyTooLarge extends Error {}

/**
 * For routes whose JSON a framework reads: the body is read here first, within its bounds, and handed on whole. Anything
 * but JSON is refused.
 */
export function boundedJson(bounds: BodyBounds): MiddlewareHandler {
  return async (c, next) => {
    if (c.req.method === 'GET' || c.req.method === 'HEAD') return next()
    const bytes = await readBytes(c, bounds)
    if (!(bytes instanceof Uint8Array)) return sendProblem(c, jsonProblems[bytes.code] ?? jsonProblems['broken-off']!)
    const type = c.req.header('Content-Type') ?? ''
    // An empty one of another type, too: a route that needs a body would not look at it.
    if ((bytes.length > 0 || type !== '') && !/^\s*application\/json\s*(?:;|$)/i.test(type))
      return sendProblem(c, jsonProblems['wrong-type']!)
    try {
      utf8.decode(bytes)
    } catch {
      return sendProblem(c, jsonProblems.encoding!)
    }
    handOn(c, bytes)
    return next()
  }
}

const jsonProblems: Partial<Record<Refused['code'], Problem>> = {
  'too-large': {
    status: 413,
    title: 'Too large',
    detail: 'Send at most 16 MB at once.',
    headers: { Connection: 'close' },
  },
  'too-slow': {
    status: 408,
    title: 'Too slow',
    detail: 'The body did not arrive in time.',
    headers: { Connection: 'close' },
  },
  'broken-off': { status: 400, title: 'Broken off', detail: 'The body broke off.', headers: { Connection: 'close' } },
  'wrong-type': { status: 415, title: 'Not JSON', detail: 'Send the body as application/json.' },
  encoding: { status: 400, title: 'Not JSON', detail: 'The body is not encoded as UTF-8.' },
}

/** What the adapter takes in place of the stream that was read already. */
function handOn(c: Context, bytes: Uint8Array): void {
  const incoming = incomingOf(c) as (IncomingMessage & { rawBody?: Buffer }) | undefined
  if (incoming === undefined) {
    const { url, method, headers } = c.req.raw
    c.req.raw = new Request(url, { method, headers, ...(bytes.length > 0 && { body: bytes as BodyInit }) })
  } else incoming.rawBody = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength)
}

function incomingOf(c: Context): IncomingMessage | undefined {
  return (c.env as { incoming?: IncomingMessage } | undefined)?.incoming
}

/** RFC 9110, section 8.3.1: parameters are parted by semicolons, a value may stand in quotes, names and charsets know no case. */
function isUtf8(type: string): boolean {
  const charset = type
    .split(';')
    .slice(1)
    .map((parameter) => parameter.trim().toLowerCase())
    .find((parameter) => parameter.startsWith('charset='))
  return charset === undefined || /^"?utf-?8"?$/.test(charset.slice('charset='.length).trim())
}

const tooLarge: Refused = { ok: false, code: 'too-large', message: 'This is more than a sign-up form can take.' }
const tooSlow: Refused = { ok: false, code: 'too-slow', message: 'The answers did not arrive in time.' }
const brokenOff: Refused = { ok: false, code: 'broken-off', message: 'The answers broke off.' }

/** How long a sign-up may take to arrive: a phone on a poor line needs a few seconds, a connection held open for ever is no visitor's. */
const LONGEST_MS = 15_000
/** What comes beyond the limit is read past, so that the sender can hear the answer; but not without end. */
const READ_PAST_BYTES = 2 * 1024 * 1024

/** More fields than any form has; each costs more than its bytes. */
const MOST_PARTS = 1_000
/** A puzzle's solution is some 600 letters; what solves one is no larger than it may be. */
const SMALL_FORM_BYTES = 8_192

/** The body, or why there is none. From Node's own stream where there is one: a web stream takes several times as long. */
export async function readBytes(
  c: Context,
  { bytes: limit, ms = LONGEST_MS }: BodyBounds,
): Promise<Uint8Array | Refused> {
  if (Number(c.req.header('Content-Length') ?? 0) > limit) return tooLarge
  const incoming = incomingOf(c)
  const source = incoming ?? (c.req.raw.body === null ? null : Readable.fromWeb(c.req.raw.body as ReadableStream))
  if (source === null) return new Uint8Array()
  return new Promise((resolve) => {
    const chunks: Buffer[] = []
    let size = 0
    const timer = setTimeout(() => end(tooSlow), ms)
    const end = (result: Uint8Array | Refused) => {
      clearTimeout(timer)
      source.removeAllListeners('data')
      resolve(result)
    }
    source.on('data', (chunk: Buffer) => {
      size += chunk.length
      if (size <= limit) chunks.push(chunk)
      else {
        chunks.length = 0
        if (size > limit + READ_PAST_BYTES) end(tooLarge)
      }
    })
    source.once('end', () => end(size > limit ? tooLarge : Buffer.concat(chunks)))
    // A client that went away needs no answer.
    source.once('error', () => end(brokenOff))
    source.once('close', () => end(brokenOff))
  })
}

/** Null where there are more parts than are read. */
type Pairs = [string, unknown][] | null
type Parse = (text: string, bytes: Uint8Array, type: string) => Pairs | Promise<Pairs>

const utf8 = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true })

const parsers: [RegExp, Parse][] = [
  [/^application\/x-www-form-urlencoded\s*(;|$)/i, parseUrlencoded],
  [/^application\/json\s*(;|$)/i, parseJson],
  [/^multipart\/form-data\s*;/i, parseMultipart],
]

/** URL Standard, section 5.1, except that percent-encoded bytes which are not UTF-8 are refused. */
function parseUrlencoded(text: string): Pairs {
  const parts = text.split('&', MOST_PARTS + 1)
  if (parts.length > MOST_PARTS) return null
  return parts
    .filter((part) => part !== '')
    .map((part) => {
      const at = part.indexOf('=')
      return at < 0 ? [decodePart(part), ''] : [decodePart(part.slice(0, at)), decodePart(part.slice(at + 1))]
    })
}

function decodePart(part: string): string {
  const spaced = part.replaceAll('+', ' ')
  if (!spaced.includes('%')) return spaced
  // A percent sign that begins no escape stands for itself, as the URL Standard says.
  return utf8.decode(Buffer.from(percentDecode(spaced), 'latin1'))
}

/** To one character a byte, so that text and decoded bytes can be joined and judged as a whole. */
function percentDecode(text: string): string {
  return Buffer.from(text, 'utf8')
    .toString('latin1')
    .replace(/%([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
}

function parseJson(text: string): Pairs {
  const value: unknown = JSON.parse(text)
  if (value === null || typeof value !== 'object' || Array.isArray(value)) throw new SyntaxError('not an object')
  return Object.entries(value)
}

async function parseMultipart(_text: string, bytes: Uint8Array, type: string): Promise<Pairs> {
  const form = await new Response(bytes as BodyInit, { headers: { 'Content-Type': type } }).formData()
  return [...form.entries()]
}
