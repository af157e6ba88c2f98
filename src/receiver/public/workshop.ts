import { Hono } from 'hono'
import { serveStatic } from '@hono/node-server/serve-static'
import { isLoopback } from '#core/site'

/** Scripts and data from here only; the receiver may be elsewhere, and pictures of forms are frames without scripts. */
const POLICY = [
  "default-src 'self'",
  "script-src 'self'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "connect-src 'self' https: http://localhost:* http://127.0.0.1:*",
  // Pages of the owner's sites, to rehearse their forms; in frames that cannot reach the workshop.
  "frame-src 'self' https: http://localhost:* http://127.0.0.1:*",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ')

/** The workshop's own addresses: those of its router, which the test holds this against. */
const PLACES =
  /^\/(?:$|new$|forms\/[^/]+(?:\/[^/]+)?$|lists(?:\/[^/]+(?:\/import|\/onward(?:\/[^/]+)?|\/people\/[^/]+(?:\/receipts)?)?)?$|write(?:\/(?:sent\/|series\/|feeds\/)?[^/]+)?$|mail-room$|results(?:\/wordings\/[^/]+)?$|sites(?:\/[^/]+)?$|settings$|help(?:\/[a-z-]+)?$|connections(?:\/[^/]+)?$)/

/** The workshop's own files. It belongs to one origin: its data would not be found under another spelling. */
export function workshopRoutes(folder: string, publicUrl: string): Hono {
  const routes = new Hono()
  const own = new URL(publicUrl)
  routes.use('*', async (c, next) => {
    const { pathname, search } = new URL(c.req.url)
    // Only among the names of this computer, which no proxy gives to a visitor: one that rewrites `Host` would send the browser round for ever.
    const asked = c.req.header('Host') ?? own.host
    const isPlace = PLACES.test(pathname)
    if (isPlace && asked !== own.host && isLoopback(own.hostname) && isLoopback(hostnameOf(asked)))
      return c.redirect(`${publicUrl}${pathname}${search}`, 302)
    await next()
    c.header('Content-Security-Policy', POLICY)
    c.header('X-Content-Type-Options', 'nosniff')
    c.header('Referrer-Policy', 'no-referrer')
    return undefined
  })
  routes.use('/assets/*', async (c, next) => {
    await next()
    // Vite names built files after their content, so a name never changes its meaning.
    if (c.res.ok) c.header('Cache-Control', 'public, max-age=31536000, immutable')
  })
  routes.get('*', serveStatic({ root: folder, precompressed: true }))
  const shell = serveStatic({ root: folder, path: 'index.html', precompressed: true })
  // Any other address is a visitor's who has lost the way.
  routes.get('*', (c, next) => (PLACES.test(c.req.path) ? shell(c, next) : next()))
  return routes
}

function hostnameOf(host: string): string {
  return URL.canParse(`http://${host}`) ? new URL(`http://${host}`).hostname : host
}
