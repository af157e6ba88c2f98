import type { Context } from 'hono'
import type { ContentfulStatusCode } from 'hono/utils/http-status'

/**
 * Sends a public page. Sandboxed without its origin and without scripts, so even a slip in the rendering
 * could not reach the workshop, which is served from the same address.
 *
 * @param formTargets origins besides our own to which a form on the page may lead, after redirects too
 */
export function sendPage(
  c: Context,
  html: string,
  status: ContentfulStatusCode = 200,
  headers: Record<string, string> = {},
  formTargets: string[] = [],
): Response {
  return c.body(html, status, {
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Security-Policy': [
      'sandbox allow-forms allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation',
      "default-src 'none'",
      "style-src 'unsafe-inline'",
      "base-uri 'none'",
      `form-action ${["'self'", ...formTargets].join(' ')}`,
    ].join('; '),
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'strict-origin-when-cross-origin',
    'Cache-Control': 'no-store',
    ...headers,
  })
}
