import { api, type Openings } from '#core/api'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { addressLimiter } from '../../limits'
import type { Bearer } from '../../http/bearer'
import { visitorAddress } from '../../http/visitor-address'
import type { OwnerKeys } from '..'
import { conflict, refused } from '../../http/answers'
import type { FoundOpening, ReceiverParts, Subject } from '../../subject'
import { described } from '../../http/described'

const paths = described(api.keys)

/** The fragment never leaves the browser, so a code stands in no log. */
export const pairingAddress = (publicUrl: string, code: string) => `${publicUrl}/#pair=${code}`

/** The key that a request brings; null for none. */
export const keyIn = (c: Context): string | null =>
  /^Bearer (.+)$/.exec(c.req.header('Authorization') ?? '')?.[1] ?? null

/** A key is pasted, or kept: whoever brings so many wrong ones tries them. */
const WRONG_KEYS_A_MINUTE = 60

/**
 * Reads whose key a request came with: null for none of ours. Right keys are not counted against wrong ones, so a network
 * that tries keys shuts nobody else out.
 */
export function keyReader({ keys, settings, metrics }: Pick<ReceiverParts, 'keys' | 'settings' | 'metrics'>) {
  const wrongKeys = addressLimiter(WRONG_KEYS_A_MINUTE)
  return async (c: Context): Promise<Bearer | 'withdrawn' | 'too-many' | null> => {
    const given = keyIn(c)
    if (given !== null && (await keys.isInMemory(given))) return keys.bearerOf(given)
    const visitor = visitorAddress(c, settings.trustedProxies)
    if (wrongKeys.take(visitor) > 0) {
      metrics.refusedNetworks.note(visitor)
      return 'too-many'
    }
    return given === null ? null : keys.bearerOf(given)
  }
}

/** The route for browsers without a key. */
export function pairRoute(routes: OpenAPIHono, keys: OwnerKeys): void {
  routes.openapi(paths.pair, async (c) => {
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

/** Whatever opens the house: on one list, with a way to shut it. */
export function keysApiRoutes(routes: OpenAPIHono, parts: ReceiverParts, subjects: readonly Subject[]): void {
  const { keys, settings, ledger } = parts
  const { keptLinkKeys } = ledger
  const all = async (c: Context): Promise<Openings> => {
    const { id } = c.get('bearer')
    const [list, addresses, links, found] = await Promise.all([
      ...([keys.list(), keys.openCodes(), keptLinkKeys.standing()] as const),
      Promise.all(subjects.map((subject) => subject.openings?.(parts) ?? [])),
    ])
    const nameOf = (by: string | null) =>
      by === null ? null : (list.find((one) => one.id === by)?.name ?? 'The computer’s own key')
    const openings = found.flat().map((one) => ({ ...one, by: nameOf(one.by) }))
    const those = (of: FoundOpening['of']) => openings.flatMap(({ of: one, ...opening }) => (one === of ? opening : []))
    return {
      keys: list.map((one) => ({ ...one, isThis: one.id === id })),
      addresses,
      services: those('services'),
      pages: those('pages'),
      links: { ...links, by: nameOf(links.by) },
    }
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
    return c.json({ address: pairingAddress(settings.publicUrl, code), until }, 200)
  })
  routes.openapi(paths.makeLinkKeyAnew, async (c) => {
    await keptLinkKeys.makeAnew(c.get('bearer').id)
    return c.json(await all(c), 200)
  })
  routes.openapi(paths.saveLinkKeys, async (c) =>
    c.json({ sealed: await keptLinkKeys.sealedWith(c.req.valid('json').passphrase) }, 200),
  )
  routes.openapi(paths.openLinkKeys, async (c) => {
    const given = c.req.valid('json')
    if ('plain' in given) await keptLinkKeys.takePlain(given.plain)
    else if (!(await keptLinkKeys.takeSealed(given.sealed.trim(), given.passphrase)))
      return conflict(c, 'Not opened', {
        code: 'wrong-passphrase',
        message: 'The passphrase is another, or this is no key of links.',
      })
    return c.json(await all(c), 200)
  })
  routes.openapi(paths.makeServiceAddressAnew, async (c) => {
    const { id } = c.req.valid('param')
    if (ledger.published().connection(id) === null)
      return refused(c, { status: 404, title: 'No such connection', detail: 'There is no such connection here.' })
    await keptLinkKeys.makeServiceAnew(id, c.get('bearer').id)
    return c.json(await all(c), 200)
  })
}
