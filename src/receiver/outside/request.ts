import { type IncomingMessage, request as requestHttp } from 'node:http'
import { request as requestHttps } from 'node:https'
import { brotliDecompressSync, gunzipSync, inflateSync } from 'node:zlib'
import { guardOf, OutsideProblem, readAddress } from './guard'

export interface GuardedRequest {
  /** Default: GET. */
  method?: string
  /** Sent to every origin. */
  headers?: Record<string, string>
  /** Sent to one origin alone, and not along a redirect to another: keys. */
  headersFor?: { origin: string; values: Record<string, string> }
  body?: Uint8Array
  /** Whether it is gone on where an answer sends on to; default: yes. Otherwise that answer is the last. */
  isFollowed?: boolean
  /** Origins of this computer that may be asked all the same: the stand-ins. */
  allowed?: readonly string[]
  /** Limits. */
  limits?: Partial<Limits>
}

interface Limits {
  redirects: number
  /** Of the whole wait, in milliseconds. */
  ms: number
  /** Of the body, packed and unpacked. */
  bytes: number
}
const LIMITS: Limits = { redirects: 5, ms: 20_000, bytes: 3 * 1024 * 1024 }

export interface GuardedAnswer {
  status: number
  /** Where it came from, after redirects. */
  address: string
  /** Each by its name in small letters, with all its values. */
  headers: NodeJS.Dict<string[]>
  /** Unpacked. */
  body: Buffer
  /** Where the first answer sent on to; null when it was the last. */
  location: string | null
}

/**
 * The one request to an address that somebody typed, or that is named by what came from there. Nothing is asked that is
 * only reached from inside: addresses of private networks and of this computer are refused after their names are resolved,
 * in the very lookup that the connection is made by. Redirects are followed as browsers follow them: what was posted is
 * asked for, without its body.
 *
 * @throws OutsideProblem in words for the owner
 */
export async function guardedRequest(
  address: string,
  { method = 'GET', headers = {}, headersFor, body, isFollowed = true, allowed = [], limits }: GuardedRequest = {},
): Promise<GuardedAnswer> {
  const { redirects, ms, bytes } = { ...LIMITS, ...limits }
  const deadline = performance.now() + ms
  // Sockets take whole milliseconds alone.
  const left = () => Math.ceil(deadline - performance.now())
  let url = readAddress(address)
  let location: string | null = null
  for (let count = 0; ; count++) {
    const isFirst = count === 0
    const response = await ask(url, {
      method: isFirst ? method : 'GET',
      headers: {
        'Accept-Encoding': 'gzip, br',
        ...headers,
        ...(headersFor?.origin === url.origin && headersFor.values),
        ...(isFirst && body !== undefined && { 'Content-Length': String(body.length) }),
      },
      body: isFirst ? body : undefined,
      allowed,
      ms: left(),
      longest: ms,
    })
    const { statusCode = 0 } = response
    const next = response.headers.location
    if (isFollowed && statusCode >= 300 && statusCode < 400 && next !== undefined) {
      response.destroy()
      if (isFirst && body !== undefined && (statusCode === 307 || statusCode === 308))
        throw new OutsideProblem('The answers were sent on to another address as they are.')
      location ??= next
      if (count === redirects)
        throw new OutsideProblem(`It leads from address to address, more than ${redirects} times.`)
      url = readAddress(next, url)
      continue
    }
    return {
      status: statusCode,
      address: url.href,
      headers: response.headersDistinct,
      body: await readBytes(response, left(), bytes, ms),
      location,
    }
  }
}

interface Ask {
  method: string
  headers: Record<string, string>
  body: Uint8Array | undefined
  allowed: readonly string[]
  /** Left of the whole wait. */
  ms: number
  longest: number
}

function ask(url: URL, wish: Ask): Promise<IncomingMessage> {
  const { method, headers, body, allowed, ms, longest } = wish
  const guard = guardOf(url, allowed)
  const startedAt = performance.now()
  return new Promise((resolve, reject) => {
    const request = url.protocol === 'https:' ? requestHttps : requestHttp
    // Of the whole wait: a server that says a little now and then would hold on for ever otherwise.
    const signal = AbortSignal.timeout(Math.max(1, Math.ceil(ms)))
    const asked = request(url, { method, signal, headers, ...guard }, resolve)
    asked.on('error', (error: NodeJS.ErrnoException) => {
      // A kept connection that its server closed just then; what only reads may be asked again (RFC 9112, section 9.3.1).
      if (asked.reusedSocket && error.code === 'ECONNRESET' && (method === 'GET' || method === 'HEAD'))
        resolve(ask(url, { ...wish, ms: ms - (performance.now() - startedAt) }))
      else reject(error instanceof OutsideProblem ? error : new OutsideProblem(wordsFor(error, url, longest)))
    })
    asked.end(body)
  })
}

function wordsFor(error: NodeJS.ErrnoException, url: URL, longest: number): string {
  if (error.name === 'AbortError' || error.name === 'TimeoutError')
    return `The site did not answer within ${longest / 1000} seconds.`
  return error.code === 'ENOTFOUND'
    ? `No site was found at ${url.hostname}. Is the address right?`
    : `The site could not be reached: ${error.message}.`
}

function readBytes(response: IncomingMessage, ms: number, most: number, longest: number): Promise<Buffer> {
  const size = `${Math.round(most / 1024 / 1024)} MB`
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let count = 0
    const stop = (message: string) => {
      response.destroy()
      reject(new OutsideProblem(message))
    }
    const timer = setTimeout(() => stop(`The page did not come within ${longest / 1000} seconds.`), Math.max(1, ms))
    response.on('data', (chunk: Buffer) => {
      count += chunk.length
      if (count > most) stop(`The page is larger than ${size}.`)
      else chunks.push(chunk)
    })
    response.on('error', () => stop('The connection broke in the middle of the page.'))
    response.on('close', () => clearTimeout(timer))
    response.on('end', () => {
      try {
        resolve(unpacked(Buffer.concat(chunks), response.headers['content-encoding'], most))
      } catch {
        const what = `it is packed in a way that is not understood, or larger than ${size}`
        reject(new OutsideProblem(`The page could not be read: ${what}.`))
      }
    })
  })
}

/** No more than the bound either: a small packed body may be a very large one. */
function unpacked(bytes: Buffer, encoding = '', most: number): Buffer {
  const bound = { maxOutputLength: most }
  switch (encoding.trim().toLowerCase()) {
    case '':
    case 'identity':
      return bytes
    case 'gzip':
    case 'x-gzip':
      return gunzipSync(bytes, bound)
    case 'br':
      return brotliDecompressSync(bytes, bound)
    case 'deflate':
      return inflateSync(bytes, bound)
    default:
      throw new Error('unknown encoding')
  }
}
