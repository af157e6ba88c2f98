import { Hono } from 'hono'
import { beaconSchema } from '#core/results'
import { type Counting, isCounted } from '../results'
import { sendProblem } from '../http/problem'
import { readBytes } from '../http/read-body'
import type { Settings } from '../settings'
import { visitorAddress } from '../http/visitor-address'

const MOST_BYTES = 8 * 1024
const OPEN = { 'Access-Control-Allow-Origin': '*' }

/** What pages tell of how their forms were seen: `POST /seen/:spot`, by `sendBeacon`. */
export function seenRoutes(counting: Counting, { trustedProxies }: Pick<Settings, 'trustedProxies'>): Hono {
  const app = new Hono()
  app.post('/seen/:spot', async (c) => {
    const body = await readBytes(c, { bytes: MOST_BYTES })
    const beacon = body instanceof Uint8Array ? beaconSchema.safeParse(json(body)) : null
    if (!beacon?.success || !beacon.data.forms.some(({ spot }) => spot === c.req.param('spot')))
      return sendProblem(c, {
        status: 422,
        title: 'Not understood',
        detail: 'This is nothing that the script of a page sends.',
        headers: OPEN,
      })
    if (isCounted(c)) await counting.take(beacon.data, visitorAddress(c, trustedProxies))
    return c.body(null, 204, OPEN)
  })
  return app
}

function json(bytes: Uint8Array): unknown {
  try {
    return JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
  } catch {
    return null
  }
}
