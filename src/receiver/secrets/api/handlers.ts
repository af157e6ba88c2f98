import { api } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import type { Limiter } from '../../limits'
import { tooManyRequests } from '../../http/problem'
import type { Bearer } from '../../http/bearer'
import type { OwnerKeys } from '..'
import type { Settings } from '../../settings'
import { visitorAddress } from '../../http/visitor-address'
import { refused } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.keys)

/** The fragment never leaves the browser, so a code stands in no log. */
export const pairingAddress = (publicUrl: string, code: string) => `${publicUrl}/#pair=${code}`

/** Whose key a request came with; null for none of ours. */
export async function bearerIn(c: Context, keys: OwnerKeys): Promise<Bearer | 'withdrawn' | null> {
  const given = /^Bearer (.+)$/.exec(c.req.header('Authorization') ?? '')?.[1]
  return given === undefined ? null : keys.bearerOf(given)
}

/** The route for browsers without a key. */
export function pairRoute(
  routes: OpenAPIHono,
  keys: OwnerKeys,
  { trustedProxies }: Pick<Settings, 'trustedProxies'>,
  limiter: Limiter,
): void {
  routes.openapi(paths.pair, async (c) => {
    const waitSeconds = limiter.take(visitorAddress(c, trustedProxies))
    if (waitSeconds > 0) return refused(c, tooManyRequests(waitSeconds))
    const { code, name } = c.req.valid('json')
    const exchanged = await keys.exchange(code, name)
    if (exchanged === 'spent')
      return refused(c, {
        status: 410,
        title: 'Used before',
        detail: 'This address has connected a browser already, and works once.',
      })
    if (exchanged === 'unknown')
      return refused(c, { status: 404, title: 'No such code', detail: 'There is no such code, or it has ended.' })
    c.header('Cache-Control', 'no-store')
    return c.json(exchanged, 200)
  })
}

/** The keys that open the owner's side. */
export function keysApiRoutes(routes: OpenAPIHono, keys: OwnerKeys, { publicUrl }: Pick<Settings, 'publicUrl'>): void {
  const all = async (c: Context) => {
    const { id } = c.get('bearer')
    const all = (await keys.list()).map((one) => ({ ...one, isThis: one.id === id }))
    return { keys: all, addresses: await keys.openCodes() }
  }
  routes.openapi(paths.readKeys, async (c) => c.json(await all(c), 200))
  routes.openapi(paths.withdrawKey, async (c) => {
    await keys.withdraw(c.req.valid('param').id)
    return c.json(await all(c), 200)
  })
  routes.openapi(paths.shutAddress, async (c) => {
    await keys.shut(c.req.valid('param').id)
    return c.json(await all(c), 200)
  })
  routes.openapi(paths.newPairingAddress, async (c) => {
    const { code, until } = await keys.newCode(c.req.valid('json'), c.get('bearer').id)
    return c.json({ address: pairingAddress(publicUrl, code), until }, 200)
  })
}
