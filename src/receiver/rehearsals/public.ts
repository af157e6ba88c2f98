import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { Hono } from 'hono'
import { fetchPage, OutsideProblem } from '../outside'
import type { Settings } from '../settings'
import { REHEARSAL_HEADER, rehearsalHeader } from '#core/rehearsal'
import type { Rehearsals } from './rehearsals'
import { withBase } from './with-base'

/**
 * What a rehearsal needs in a browser, each only while it goes on: `GET /rehearsal/:code` (whether it does),
 * `GET /rehearsal/:code/page?address=…` (a page as it stands, without its scripts), and `GET /rehearsal.js`.
 *
 * @param files folder of the built scripts; null when there is none
 */
export function rehearsalRoutes(rehearsals: Rehearsals, settings: Settings, files: string | null): Hono {
  const routes = new Hono()
  routes.get('/rehearsal.js', (c) => {
    const path = files === null ? null : join(files, 'rehearsal.js')
    if (path === null || !existsSync(path)) return c.text('Not found', 404)
    return c.body(readFileSync(path), 200, {
      'Content-Type': 'text/javascript; charset=utf-8',
      'Cache-Control': 'no-cache',
      'X-Content-Type-Options': 'nosniff',
      'Access-Control-Allow-Origin': '*',
    })
  })

  routes.get('/rehearsal/:code', async (c) =>
    c.body(null, (await rehearsals.get(c.req.param('code'))) === null ? 404 : 204, {
      'Access-Control-Allow-Origin': '*',
      'Cache-Control': 'no-store',
    }),
  )

  routes.get('/rehearsal/:code/page', async (c) => {
    const code = c.req.param('code')
    if ((await rehearsals.get(code)) === null) return c.text('No such rehearsal', 404)
    const allowed = [settings.publicUrl, ...(settings.standIns === null ? [] : [settings.standIns])]
    try {
      const { html, address } = await fetchPage(c.req.query('address') ?? '', allowed, {
        headers: { origin: settings.publicUrl, values: { [REHEARSAL_HEADER]: rehearsalHeader(code) } },
      })
      return c.body(withBase(html, address), 200, {
        'Content-Type': 'text/html; charset=utf-8',
        // Of our origin, so that the workshop can fill it in; so nothing in it may run, and nobody else may show it.
        'Content-Security-Policy':
          "sandbox allow-forms allow-same-origin; script-src 'none'; object-src 'none'; frame-ancestors 'self'",
        'X-Content-Type-Options': 'nosniff',
        'Cache-Control': 'no-store',
        'Referrer-Policy': 'no-referrer',
      })
    } catch (error) {
      if (!(error instanceof OutsideProblem)) throw error
      return c.text(error.message, 502)
    }
  })
  return routes
}
