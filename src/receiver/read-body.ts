import type { IncomingMessage } from 'node:http'
import type { Context } from 'hono'

export type BodyReading =
  | { ok: true; bytes: Uint8Array; pairs: [string, unknown][] }
  | {
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
  const bytes = await readBytes(c, limit)
  if (!(bytes instanceof Uint8Array)) return bytes
  try {
    return { ok: true, bytes, pairs: await parse(utf8.decode(bytes), bytes, type) }
  } catch (error) {
    return (error as { code?: unknown } | null)?.code === 'ERR_ENCODING_INVALID_ENCODED_DATA'
      ? { ok: false, code: 'encoding', message: 'The answers are not encoded as UTF-8.' }
      : { ok: false, code: 'malformed', message: 'The answers could not be read.' }
  }
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

type Refused = Extract<BodyReading, { ok: false }>
const tooLarge: Refused = { ok: false, code: 'too-large', message: 'This is more than a sign-up form can take.' }
const tooSlow: Refused = { ok: false, code: 'too-slow', message: 'The answers did not arrive in time.' }
const brokenOff: Refused = { ok: false, code: 'broken-off', message: 'The answers broke off.' }

/** How long a sign-up may take to arrive: a phone on a poor line needs a few seconds, a connection held open for ever is no visitor's. */
const LONGEST_MS = 15_000
/** What comes beyond the limit is read past, so that the sender can hear the answer; but not without end. */
const READ_PAST_BYTES = 2 * 1024 * 1024

/** The body, or why there is none. From Node's own stream where there is one: a web stream takes several times as long. */
async function readBytes(c: Context, limit: number): Promise<Uint8Array | Refused> {
  const incoming = (c.env as { incoming?: IncomingMessage } | undefined)?.incoming
  if (incoming === undefined) {
    const bytes = new Uint8Array(await c.req.arrayBuffer())
    return bytes.length > limit ? tooLarge : bytes
  }
  return new Promise((resolve) => {
    const chunks: Buffer[] = []
    let size = 0
    const timer = setTimeout(() => end(tooSlow), LONGEST_MS)
    const end = (result: Uint8Array | Refused) => {
      clearTimeout(timer)
      incoming.removeAllListeners('data')
      resolve(result)
    }
    incoming.on('data', (chunk: Buffer) => {
      size += chunk.length
      if (size <= limit) chunks.push(chunk)
      else if (size > limit + READ_PAST_BYTES) end(tooLarge)
    })
    incoming.once('end', () => end(size > limit ? tooLarge : Buffer.concat(chunks)))
    // Whoever went away needs no answer, and it is nobody's fault.
    incoming.once('error', () => end(brokenOff))
    incoming.once('close', () => end(brokenOff))
  })
}

type Parse = (text: string, bytes: Uint8Array, type: string) => [string, unknown][] | Promise<[string, unknown][]>

const utf8 = new TextDecoder('utf-8', { fatal: true, ignoreBOM: true })

const parsers: [RegExp, Parse][] = [
  [/^application\/x-www-form-urlencoded\s*(;|$)/i, parseUrlencoded],
  [/^application\/json\s*(;|$)/i, parseJson],
  [/^multipart\/form-data\s*;/i, parseMultipart],
]

/** URL Standard, section 5.1, except that percent-encoded bytes which are not UTF-8 are refused. */
function parseUrlencoded(text: string): [string, unknown][] {
  return text
    .split('&')
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

function parseJson(text: string): [string, unknown][] {
  const value: unknown = JSON.parse(text)
  if (value === null || typeof value !== 'object' || Array.isArray(value)) throw new SyntaxError('not an object')
  return Object.entries(value)
}

async function parseMultipart(_text: string, bytes: Uint8Array, type: string): Promise<[string, unknown][]> {
  const form = await new Response(bytes as BodyInit, { headers: { 'Content-Type': type } }).formData()
  return [...form.entries()]
}
