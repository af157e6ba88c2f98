import { decodedBy } from '#core/submission'
import { guardedRequest } from './request'

/** A page as a visitor's browser gets it. */
export interface OutsidePage {
  status: number
  /** Where it was found, after redirects. */
  address: string
  html: string
  /** Of its `Content-Security-Policy` headers. */
  policies: string[]
  /** Encoding of the body. */
  encoding: string
  /** Its `X-Frame-Options` header; empty for none. */
  frameOptions: string
  /** How long a cache has kept it, in seconds (RFC 9111, section 5.1); null when it does not say. */
  age: number | null
  /** Where the first answer sent on to; null when it was the last. */
  location: string | null
}

/** Method, body and headers, for requests other than GET. */
export interface Post {
  contentType: string
  body: Uint8Array
}

/**
 * Fetches a page that the owner names.
 *
 * @param allowed origins that may be fetched although they are of this computer: the stand-in sites
 * @param more headers for one origin alone, and what is posted. A redirect is followed without it, as browsers do.
 * @throws OutsideProblem in words for the owner
 */
export async function fetchPage(
  address: string,
  allowed: readonly string[],
  more: { headers?: { origin: string; values: Record<string, string> }; post?: Post | null } = {},
): Promise<OutsidePage> {
  const { headers: headersFor, post = null } = more
  const answer = await guardedRequest(address, {
    headers: {
      'User-Agent': 'Mozilla/5.0 (compatible; page check)',
      Accept: 'text/html,*/*;q=0.5',
      ...(post !== null && { 'Content-Type': post.contentType }),
    },
    ...(headersFor !== undefined && { headersFor }),
    ...(post !== null && { method: 'POST', body: post.body }),
    allowed,
  })
  const { headers } = answer
  const age = Number(headers.age?.[0] ?? NaN)
  return {
    status: answer.status,
    address: answer.address,
    ...decoded(answer.body, headers['content-type']?.[0]),
    policies: headers['content-security-policy'] ?? [],
    frameOptions: headers['x-frame-options']?.join(', ') ?? '',
    age: Number.isInteger(age) ? age : null,
    location: answer.location,
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
