import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Context, Hono } from 'hono'
import type { FormContent } from '#core/form'
import { SHIPPED_FONT_PATH } from '#core/look'
import { MAX_LINE_LENGTH } from '#core/signup'
import { closedPage, type FormState, framePage, landingPage, noticePage } from '#core/render'
import { keepableText } from '#core/text'
import { sendPage } from '../pages'
import type { Settings } from '../settings'
import type { Ledger } from '../ledger'
import { framesOf, ownAddresses } from './join'

const A_YEAR = 'public, max-age=31536000, immutable'

/**
 * What visitors get besides answers: `GET /page/:spot` (the form as a page of its own), `GET /frame/:spot` (the form alone), `GET /picture/:id`,
 * `GET /askbox.js`, the shipped font, and `GET /form/:spot.json` (the published form as data).
 *
 * @param files folder of the built script and font; null when there is none
 */
export function pageRoutes(ledger: Ledger, settings: Settings, files: string | null): Hono {
  const routes = new Hono()
  const found = (id: string) => {
    const published = ledger.published()
    const spot = published.spot(id)
    const version = spot && published.latestVersion(spot.form)
    return spot === undefined || version === undefined ? null : { spot, version }
  }

  routes.get('/page/:spot', (c) => {
    const placed = found(c.req.param('spot'))
    if (placed === null)
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such page. The address may be incomplete.'),
        404,
        {},
        { inFrames: false },
      )
    const { spot, version } = placed
    if (spot.state !== 'live')
      return sendPage(
        c,
        settings.publicUrl,
        spot.state === 'paused'
          ? noticePage('This page is closed for now', 'Its owner has paused it. Please look in again another day.')
          : noticePage('This page is closed', 'Its owner has closed it. It takes no more sign-ups.'),
        410,
        {},
        { inFrames: false },
      )
    const form = {
      content: version.content,
      form: version.form,
      version: version.number,
      spot: spot.id,
      receiver: settings.publicUrl,
    }
    return sendPage(
      c,
      settings.publicUrl,
      landingPage(form, fromAddress(c, version.content)),
      200,
      {},
      {
        formTargets: [settings.publicUrl, ...ownAddresses(version.content)],
        frames: framesOf(version.content),
        withScript: true,
        inFrames: false,
      },
    )
  })

  routes.get('/frame/:spot', (c) => {
    const placed = found(c.req.param('spot'))
    if (placed === null)
      return sendPage(
        c,
        settings.publicUrl,
        noticePage('Nothing here', 'There is no such form. The address may be incomplete.'),
        404,
      )
    const { spot, version } = placed
    if (spot.state !== 'live') return sendPage(c, settings.publicUrl, closedPage(version.content, null), 410)
    return sendPage(
      c,
      settings.publicUrl,
      framePage(
        {
          content: version.content,
          form: version.form,
          version: version.number,
          spot: spot.id,
          receiver: settings.publicUrl,
        },
        fromAddress(c, version.content),
      ),
      200,
      {},
      {
        formTargets: [settings.publicUrl, ...ownAddresses(version.content)],
        frames: framesOf(version.content),
      },
    )
  })

  routes.get('/picture/:id', (c) => {
    const id = c.req.param('id')
    const picture = ledger.published().showsPicture(id) ? ledger.picture(id) : null
    if (picture === null) return c.text('Not found', 404)
    // Named after its bytes, so the name never changes its meaning; never anything a browser would run.
    return c.body(Buffer.from(picture.bytes, 'base64'), 200, {
      'Content-Type': picture.type,
      'Cache-Control': A_YEAR,
      'X-Content-Type-Options': 'nosniff',
      'Content-Security-Policy': "default-src 'none'; sandbox",
      'Cross-Origin-Resource-Policy': 'cross-origin',
    })
  })

  routes.get('/form/:name{[a-z0-9]+\\.json}', (c) => {
    const placed = found(c.req.param('name').replace(/\.json$/, ''))
    if (placed === null)
      return c.json({ type: 'about:blank', title: 'No such form', status: 404 }, 404, {
        'Content-Type': 'application/problem+json',
      })
    const { spot, version } = placed
    return c.json({ spot: spot.id, kind: spot.kind, version: version.number, content: version.content }, 200, {
      'Access-Control-Allow-Origin': '*',
      'Cache-Control': 'public, max-age=60',
    })
  })

  const file = (c: Context, name: string, type: string, caching: string) => {
    const path = files === null ? null : join(files, name)
    if (path === null || !existsSync(path)) return c.text('Not found', 404)
    return c.body(readFileSync(path), 200, {
      'Content-Type': type,
      'Cache-Control': caching,
      'X-Content-Type-Options': 'nosniff',
      'Access-Control-Allow-Origin': '*',
    })
  }
  routes.get('/askbox.js', (c) => file(c, 'askbox.js', 'text/javascript; charset=utf-8', 'public, max-age=600'))
  routes.get(SHIPPED_FONT_PATH, (c) => file(c, 'ask-box-sans.woff2', 'font/woff2', 'public, max-age=604800'))
  return routes
}

/** Hidden values that the page's own address carries. */
function fromAddress(c: Context, { fields }: FormContent): FormState {
  const values = fields.flatMap((field) =>
    field.kind === 'hidden' && field.source === 'page-address'
      ? [[field.key, keepableText(c.req.query(field.value) ?? '', MAX_LINE_LENGTH)] as const]
      : [],
  )
  return { values: Object.fromEntries(values), errors: {} }
}
