import { type Page, toDocument } from '#core/render'
import type { Context } from 'hono'
import type { ContentfulStatusCode } from 'hono/utils/http-status'

/** How a page is answered, and what it may do. */
export interface PageAnswer {
  status?: ContentfulStatusCode
  headers?: Record<string, string>
  /** Origins besides our own to which a form on the page may lead, after redirects too. */
  formTargets?: string[]
  /** Origins of frames on the page: the videos that its owner put there. */
  frames?: string[]
  /** Whether our own script may run on it. */
  withScript?: boolean
  /** Whether a field has the focus from the beginning: browsers ask for the same freedom as scripts, of which none may run. */
  hasFocus?: boolean
  /**
   * Whether it may stand in a frame. What answers a form may: some builders put pasted code into a frame, and the answer
   * comes there. A page that is opened by its address may not.
   */
  inFrames?: boolean
}

/**
 * Sends a public page. Sandboxed without its origin, so even a slip in the rendering could not reach the
 * workshop, which is served from the same address. Because it has no origin, our own is named: `'self'` would
 * match nothing.
 *
 * @param ownOrigin where visitors reach the receiver
 */
export function sendPage(c: Context, ownOrigin: string, page: Page, answer: PageAnswer = {}): Response {
  return sendMarkup(c, ownOrigin, toDocument(page), answer)
}

/**
 * The same for a page that is written already.
 *
 * @param options `anyPicture`: pictures come from wherever its owner named
 */
export function sendMarkup(
  c: Context,
  ownOrigin: string,
  markup: string,
  {
    status = 200,
    headers = {},
    formTargets = [],
    frames = [],
    withScript = false,
    hasFocus = false,
    inFrames = true,
    anyPicture = false,
  }: PageAnswer & { anyPicture?: boolean } = {},
): Response {
  return c.body(markup, status, {
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Security-Policy': [
      `sandbox allow-forms allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation${withScript || hasFocus ? ' allow-scripts' : ''}`,
      "default-src 'none'",
      "style-src 'unsafe-inline'",
      `img-src 'self' ${ownOrigin}${anyPicture ? ' https: http:' : ''}`,
      `font-src 'self' ${ownOrigin}`,
      ...(withScript ? [`script-src 'self' ${ownOrigin}`, `connect-src 'self' ${ownOrigin}`] : []),
      ...(frames.length > 0 ? [`frame-src ${frames.join(' ')}`] : []),
      ...(inFrames ? [] : ["frame-ancestors 'none'"]),
      "base-uri 'none'",
      `form-action ${["'self'", ...formTargets].join(' ')}`,
    ].join('; '),
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'strict-origin-when-cross-origin',
    // Pages with an embedder policy of their own show only frames that have one as well. What a video's host sends has none.
    ...(inFrames && {
      'Cross-Origin-Resource-Policy': 'cross-origin',
      ...(frames.length === 0 && { 'Cross-Origin-Embedder-Policy': 'require-corp' }),
    }),
    'Cache-Control': 'no-store',
    ...headers,
  })
}
