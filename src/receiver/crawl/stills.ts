import { Hono } from 'hono'
import { noticePage } from '#core/render'
import { hasPassed } from '../clock'
import { endsWithMark, markOf } from '../marks'
import { OutsideProblem } from '../outside'
import { sendPage } from '../pages'
import type { Ledger } from '../ledger'
import type { Settings } from '../settings'
import { openReading } from '../reading'
import { siteReadings } from './site-readings'

const HOLDS_MS = 10 * 60_000

/** No program runs in it, and it loads nothing; the workshop, which is of this origin, can reach into its frame. */
const POLICY =
  "default-src 'none'; style-src 'unsafe-inline'; img-src data:; form-action 'none'; base-uri 'none'; frame-ancestors 'self'; sandbox allow-same-origin"

const encoded = (address: string) => Buffer.from(address).toString('base64url')

/** A path where a page can be looked at for a while. Nothing of it is stored: the path says which page. */
export async function stillPath(ledger: Ledger, address: string, now: number): Promise<string> {
  const said = `${now.toString(36)}.${encoded(address)}`
  return `/still/${said}.${markOf(await ledger.linkKeys(), 'still', said)}`
}

/** `GET /still/:token`: a page of the owner’s site as a still, for the workshop’s frame. */
export function stillPages(
  ledger: Ledger,
  settings: Settings,
  { now, thread }: { now(): number; /** The built `site-thread.ts`. */ thread: string | undefined },
): Hono {
  const routes = new Hono()
  routes.get('/still/:token', async (c) => {
    const [, said = '', at = '', address = ''] =
      /^(([0-9a-z]{1,12})\.([\w-]{1,3000}))\.[\w-]{22}$/.exec(c.req.param('token')) ?? []
    const isMade = said !== '' && endsWithMark(await ledger.linkKeys(), c.req.param('token'), 'still', said)
    if (!isMade || hasPassed(Number.parseInt(at, 36), HOLDS_MS, now())) return c.notFound()
    const reading = openReading(thread, siteReadings)
    try {
      const allowed = settings.standIns === null ? [] : [settings.standIns]
      const { html } = await reading.read('still', Buffer.from(address, 'base64url').toString('utf8'), allowed)
      return c.body(html, 200, {
        'Content-Type': 'text/html; charset=utf-8',
        'Content-Security-Policy': POLICY,
        'Cache-Control': 'private, max-age=300',
        'X-Content-Type-Options': 'nosniff',
        'Referrer-Policy': 'no-referrer',
      })
    } catch (error) {
      if (!(error instanceof OutsideProblem)) throw error
      return sendPage(c, settings.publicUrl, noticePage('The page cannot be shown', error.message), {
        posts: 'nothing',
        status: 502,
      })
    } finally {
      reading.end()
    }
  })
  return routes
}
