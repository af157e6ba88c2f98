import { type BlockList, isIPv6 } from 'node:net'
import { allows } from '#core/api'
import { sendProblem, tooManyRequests } from '../http/problem'
import { visitorAddress } from '../http/visitor-address'
import { keyReader } from '../secrets/api'
import type { Subject } from '../subject'

/** Whether this process lives, and its figures. Whether sign-ups can be stored is asked at `/health`. */
export const metrics: Subject = {
  name: 'metrics',
  tables: [],
  visitors(routes, parts) {
    const { metrics, settings } = parts
    routes.get('/alive', (c) => c.json({ status: 'alive' }, 200, { 'Cache-Control': 'no-store' }))
    const bearerIn = keyReader(parts)
    routes.get('/metrics', async (c) => {
      if (!isAmong(settings.metricsFrom, visitorAddress(c, settings.trustedProxies))) {
        const bearer = await bearerIn(c)
        if (bearer === 'too-many') return sendProblem(c, tooManyRequests(60))
        if (bearer === null || bearer === 'withdrawn')
          return sendProblem(c, {
            status: 401,
            title: 'A key is needed',
            detail:
              'Send a key as “Authorization: Bearer <key>”, or ask from an address that ASKBOX_METRICS_FROM names.',
            headers: { 'WWW-Authenticate': 'Bearer' },
          })
        if (!allows(bearer, 'edit'))
          return sendProblem(c, {
            status: 403,
            title: 'Not with this key',
            detail: 'This key looks on, and sees no figures.',
          })
      }
      return c.body(await metrics.text(), 200, { 'Content-Type': metrics.contentType, 'Cache-Control': 'no-store' })
    })
  },
}

function isAmong(list: BlockList | null, address: string): boolean {
  if (list === null) return false
  try {
    return list.check(
      address.replace(/^::ffff:(?=\d)/, ''),
      isIPv6(address) && !/^::ffff:\d/.test(address) ? 'ipv6' : 'ipv4',
    )
  } catch {
    return false
  }
}
