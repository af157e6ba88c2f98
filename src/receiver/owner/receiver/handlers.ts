import { api } from '#core/api'
import { randomUUID } from 'node:crypto'
import { once } from 'node:events'
import { createReadStream, rmSync } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import type { OpenAPIHono } from '@hono/zod-openapi'
import { type BrowserPort } from '../../browser'
import type { Clock } from '../../clock'
import { complain } from '../../log'
import type { Ledger } from '../../ledger'
import type { Metrics } from '../../metrics'
import { bytesAs, refused } from '../../http/answers'
import type { Settings } from '../../settings'
import { described } from '../../http/described'

const paths = described(api.receiver)

/** The receiver itself: what it is, its clock, its browser, a copy of its store. */
export function receiverRoutes(
  routes: OpenAPIHono,
  {
    ledger,
    settings,
    clock,
    browsers,
    metrics,
  }: { ledger: Ledger; settings: Settings; clock: Clock; browsers: BrowserPort | null; metrics: Metrics },
): void {
  routes.openapi(paths.describeReceiver, async (c) =>
    c.json(
      {
        journal: await ledger.journalId(),
        latest: await ledger.latest(),
        latestChange: await ledger.latestChange(),
        publicUrl: settings.publicUrl,
        leap: clock.leap(),
        refusedToday: metrics.refusedNetworks.today(),
        bearer: c.get('bearer'),
      },
      200,
    ),
  )

  routes.openapi(paths.describeBrowser, async (c) =>
    c.json((await browsers?.state()) ?? { state: 'none' as const }, 200),
  )

  routes.openapi(paths.confirmClock, (c) => {
    clock.confirm()
    return c.json({ leap: clock.leap() }, 200)
  })

  routes.openapi(paths.copyStore, async (c) => {
    // Beside the store, which has room for what it holds and is its owner's alone.
    const file = join(settings.dataFolder, `copy-${randomUUID()}.sqlite`)
    try {
      await ledger.copyTo(file)
    } catch (error) {
      complain(error)
      return refused(c, {
        status: 507,
        title: 'No room for a copy',
        detail: 'The copy could not be written. Make room on the receiver’s disk and try again.',
      })
    }
    const read = createReadStream(file)
    // From here on only this stream knows it: whatever ends, nothing of it is left.
    await once(read, 'open')
    rmSync(file, { force: true })
    return bytesAs<string>(c, Readable.toWeb(read) as ReadableStream, 'application/vnd.sqlite3')
  })
}
