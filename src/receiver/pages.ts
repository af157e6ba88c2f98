import { type Page, toDocument } from '#core/render'
import type { Context } from 'hono'
import type { ContentfulStatusCode } from 'hono/utils/http-status'

/**
 * Where a press on a page may post to (CSP Level 3, `form-action`). Each page says it; there is no default. Chromium holds
 * redirects to it as well, so a post to us is answered at our own address: the way on to somebody else's page is a step of
 * the page that answers (`onward.ts`).
 */
export type Posts = 'nothing' | 'to-us' | 'to-a-service'

/** How a page is answered, and what it may do. */
export interface PageAnswer {
  posts: Posts
  status?: ContentfulStatusCode
  headers?: Record<string, string> | undefined
  /** Origins of frames on the page: the videos that its owner put there. */
  frames?: string[]
  /** Whether our own script may run on it. */
  withScript?: boolean
  /**
   * Whether it does something by itself: a field has the focus from the beginning, or the page leads on. Browsers ask for
   * the same freedom as scripts (HTML, sandboxed automatic features), of which none may run.
   */
  actsByItself?: boolean
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
export function sendPage(c: Context, ownOrigin: string, page: Page, answer: PageAnswer): Response {
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
    posts,
    frames = [],
    withScript = false,
    actsByItself = false,
    inFrames = true,
    anyPicture = false,
  }: PageAnswer & { anyPicture?: boolean },
): Response {
  return c.body(markup, status, {
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Security-Policy': [
      `sandbox allow-forms allow-downloads allow-popups allow-popups-to-escape-sandbox${inFrames ? ` ${OUT_OF_FRAMES}` : ''}${withScript || actsByItself ? ' allow-scripts' : ''}`,
      "default-src 'none'",
      "style-src 'unsafe-inline'",
      `img-src 'self' ${ownOrigin}${anyPicture ? ' https: http:' : ''}`,
      `font-src 'self' ${ownOrigin}`,
      ...(withScript ? [`script-src 'self' ${ownOrigin}`, `connect-src 'self' ${ownOrigin}`] : []),
      ...(frames.length > 0 ? [`frame-src ${frames.join(' ')}`] : []),
      ...(inFrames ? [] : ["frame-ancestors 'none'"]),
      "base-uri 'none'",
      `form-action ${targetsOf[posts](ownOrigin)}`,
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

/**
 * Both: a frame around it that has one of them lets nothing out of a page that has only the other. Browsers ask for a press
 * by whoever leaves a frame all the same.
 */
const OUT_OF_FRAMES = 'allow-top-navigation allow-top-navigation-by-user-activation'

const targetsOf: Record<Posts, (ownOrigin: string) => string> = {
  nothing: () => "'none'",
  'to-us': (ownOrigin) => `'self' ${ownOrigin}`,
  // Which of its addresses a service sends on to is its own to change.
  'to-a-service': (ownOrigin) => `'self' ${ownOrigin} https: http:`,
}
