import { type IncomingMessage, request as requestHttp } from 'node:http'
import { request as requestHttps } from 'node:https'
import { brotliDecompressSync, gunzipSync, inflateSync } from 'node:zlib'
import { decodedBy } from '#core/submission'
import { guardOf, PageProblem, readAddress } from './guard'

export { PageProblem } from './guard'

/** A page as a visitor's browser gets it. */
export interface FetchedPage {
  status: number
  /** Where it was found, after redirects. */
  address: string
  html: string
  /** Of its `Content-Security-Policy` headers. */
  policies: string[]
  /** By what its bytes were read. */
  encoding: string
  /** Its `X-Frame-Options` header; empty for none. */
  frameOptions: string
  /** How long a cache has kept it, in seconds (RFC 9111, section 5.1); null when it does not say. */
  age: number | null
  /** Where the first answer sent on to; null when it was the last. */
  location: string | null
}

/** What is sent, where it is more than a question for a page. */
export interface Post {
  contentType: string
  body: Uint8Array
}

const MOST_REDIRECTS = 5
/** Slow sites are slow, and there: what takes long is said by whoever asked. */
const MOST_MS = 20_000
const MOST_BYTES = 3 * 1024 * 1024

/**
 * Fetches a page that the owner names, and nothing that is only reached from inside: addresses of private networks and of
 * this computer are refused after their names are resolved, in the very lookup that the connection is made by. At most 5
 * redirects, 20 s and 3 MB in all.
 *
 * @param allowed origins that may be fetched although they are of this computer: the stand-in sites
 * @param more headers for one origin alone, and what is posted. A redirect is followed without it, as browsers do.
 * @throws PageProblem in words for the owner
 */
export async function fetchPage(
  address: string,
  allowed: readonly string[],
  {
    headers: more,
    post = null,
  }: { headers?: { origin: string; values: Record<string, string> }; post?: Post | null } = {},
): Promise<FetchedPage> {
  const deadline = Date.now() + MOST_MS
  let url = readAddress(address)
  let location: string | null = null
  for (let count = 0; ; count++) {
    const values = more !== undefined && more.origin === url.origin ? more.values : {}
    const response = await request(url, allowed, deadline - Date.now(), values, count === 0 ? post : null)
    const { statusCode = 0, headers } = response
    if (statusCode >= 300 && statusCode < 400 && headers.location !== undefined) {
      response.destroy()
      if (post !== null && count === 0 && (statusCode === 307 || statusCode === 308))
        throw new PageProblem('The answers were sent on to another address as they are.')
      location ??= headers.location
      if (count === MOST_REDIRECTS)
        throw new PageProblem(`It leads from address to address, more than ${MOST_REDIRECTS} times.`)
      url = readAddress(headers.location, url)
      continue
    }
    const { html, encoding } = await readText(response, deadline - Date.now())
    const age = Number(headers.age)
    return {
      status: statusCode,
      address: url.href,
      html,
      encoding,
      policies: policiesOf(response),
      frameOptions: String(headers['x-frame-options'] ?? ''),
      age: headers.age !== undefined && Number.isInteger(age) ? age : null,
      location,
    }
  }
}

function request(
  url: URL,
  allowed: readonly string[],
  ms: number,
  headers: Record<string, string>,
  post: Post | null,
): Promise<IncomingMessage> {
  const guard = guardOf(url, allowed)
  return new Promise((resolve, reject) => {
    const ask = url.protocol === 'https:' ? requestHttps : requestHttp
    const asked = ask(
      url,
      {
        method: post === null ? 'GET' : 'POST',
        // Of the whole wait: a server that says a little now and then would hold on for ever otherwise.
        signal: AbortSignal.timeout(Math.max(1, ms)),
        headers: {
          'User-Agent': 'Mozilla/5.0 (compatible; page check)',
          Accept: 'text/html,*/*;q=0.5',
          'Accept-Encoding': 'gzip, br',
          ...(post !== null && { 'Content-Type': post.contentType, 'Content-Length': String(post.body.length) }),
          ...headers,
        },
        ...guard,
      },
      resolve,
    )
    asked.on('error', (error: NodeJS.ErrnoException) =>
      reject(
        error instanceof PageProblem
          ? error
          : new PageProblem(
              error.name === 'AbortError' || error.name === 'TimeoutError'
                ? `The site did not answer within ${MOST_MS / 1000} seconds.`
                : error.code === 'ENOTFOUND'
                  ? `There is no site ${url.hostname}, as far as this receiver can see.`
                  : `The site could not be reached: ${error.message}.`,
            ),
      ),
    )
    asked.end(post?.body)
  })
}

function readText(response: IncomingMessage, ms: number): Promise<{ html: string; encoding: string }> {
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let size = 0
    const stop = (message: string) => {
      response.destroy()
      reject(new PageProblem(message))
    }
    const timer = setTimeout(() => stop(`The page did not come within ${MOST_MS / 1000} seconds.`), Math.max(1, ms))
    response.on('data', (chunk: Buffer) => {
      size += chunk.length
      if (size > MOST_BYTES) stop('The page is larger than 3 MB.')
      else chunks.push(chunk)
    })
    response.on('error', () => stop('The connection broke in the middle of the page.'))
    response.on('close', () => clearTimeout(timer))
    response.on('end', () => {
      try {
        resolve(
          decoded(
            unpacked(Buffer.concat(chunks), response.headers['content-encoding']),
            response.headers['content-type'],
          ),
        )
      } catch {
        reject(
          new PageProblem(
            'The page could not be read: it is packed in a way that is not understood, or larger than 3 MB.',
          ),
        )
      }
    })
  })
}

/** No more than the bound either: a small packed page may be a very large one. */
function unpacked(bytes: Buffer, encoding = ''): Buffer {
  const bound = { maxOutputLength: MOST_BYTES }
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

function decoded(bytes: Buffer, type = ''): { html: string; encoding: string } {
  const named =
    /charset=["']?([\w-]+)/i.exec(type)?.[1] ??
    /<meta[^>]{0,200}charset=["']?([\w-]+)/i.exec(bytes.subarray(0, 2048).toString('latin1'))?.[1]
  let decoder: TextDecoder
  try {
    decoder = new TextDecoder(named ?? 'utf-8')
  } catch {
    decoder = new TextDecoder()
  }
  return { html: decodedBy(decoder, bytes), encoding: decoder.encoding }
}

function policiesOf({ headersDistinct }: IncomingMessage): string[] {
  return headersDistinct['content-security-policy'] ?? []
}
