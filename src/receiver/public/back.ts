import { Hono } from 'hono'
import { noticePage } from '#core/render'
import { type HandOverApi, takeBack } from '../hand-over'
import type { Ledger } from '../ledger'
import { sendPage } from '../pages'
import { sendProblem } from '../http/problem'
import { readBytes } from '../http/read-body'
import type { Settings } from '../settings'
import { bodyProblems } from './join-problems'

/** Some services tell of many at once. */
const MOST_BYTES = 1024 * 1024

/** What outside services send here: who left there, and owners who signed in there. */
export function backRoutes(ledger: Ledger, { publicUrl }: Pick<Settings, 'publicUrl'>, parts: HandOverApi): Hono {
  const app = new Hono()

  app.post('/back/:connection', async (c) => {
    // As bytes: a signature is on these, and whatever type a service says it is, it may be an array, or a document a line.
    const bytes = await readBytes(c, { bytes: MOST_BYTES })
    if (!(bytes instanceof Uint8Array))
      return sendProblem(c, bodyProblems[bytes.code] ?? { status: 422, title: 'Not understood', detail: bytes.message })
    const text = new TextDecoder().decode(bytes)
    const taken = await takeBack({
      name: c.req.param('connection'),
      body: text,
      headers: c.req.header(),
      ledger,
      parts,
    })
    if (taken === 'unknown')
      return sendProblem(c, { status: 404, title: 'Nothing here', detail: 'There is nothing at this address.' })
    if (taken === 'unreadable')
      return sendProblem(c, { status: 422, title: 'Not understood', detail: 'No event with an address is in it.' })
    return c.json({ taken }, 200)
  })
  // Some services ask first whether the address is there.
  app.get('/back/:connection', (c) => c.body(null, 204))

  app.get('/signed-in', async (c) => {
    // Programs that only look whether something is there sign nobody in.
    if (c.req.method === 'HEAD') return c.body(null, 200)
    const ended = await parts.signIns.end(new URL(c.req.url).searchParams)
    if (ended.ok) await parts.workers.goOn(ended.connection)
    const page = ended.ok
      ? noticePage('Signed in', 'You can close this window: the workshop goes on by itself.')
      : noticePage('Not signed in', ended.said)
    return sendPage(c, publicUrl, page, { posts: 'nothing', status: ended.ok ? 200 : 400, inFrames: false })
  })
  return app
}
