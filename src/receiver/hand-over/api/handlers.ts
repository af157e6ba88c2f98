import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { allows, api, type AskedService, type ConnectionStanding } from '#core/api'
import { type Connection, type HandOver, memberIn, originsOf, shippedServices, textAt } from '#core/connection'
import type { ConnectionId, HandOverId } from '#core/ids'
import {
  backAddress,
  changedThere,
  closedBreaker,
  type HandOverApi,
  isFailing,
  type Key,
  listedBy,
  membersOf,
  type Talk,
  tryHandOver,
} from '..'
import type { Ledger } from '../../ledger'
import { newId } from '../../random'
import type { Settings } from '../../settings'
import type { Handed } from '../tables'
import { conflict, refused } from '../../http/answers'
import { described } from '../../http/described'

const paths = described(api.handOver)

const MOST_LISTED = 200
/** A secret that a webhook had before is signed with as well until everybody knows the new one. */
const BOTH_SECRETS_MS = 24 * 3_600_000

/** Connections to outside services, and the lists that they carry on. */
export function handOverApiRoutes(routes: OpenAPIHono, ledger: Ledger, settings: Settings, parts: HandOverApi): void {
  const { keys, client, workers, comparisons, signIns, now } = parts
  const published = () => ledger.published()

  const standingOf = async ({ id }: Pick<Connection, 'id'>): Promise<ConnectionStanding> => {
    const { halted = null, breaker = closedBreaker, putOff = null, stillSince = null } = await keys.state(id)
    return {
      ...{ id, halted, putOff },
      key: await keys.has(id),
      isFailing: isFailing(breaker),
      // The receiver whose turn it is knows it from the first moment, the others once it is long.
      stillSince: workers.stillSince(id) ?? stillSince,
      backAddress: backAddress(settings.publicUrl, await ledger.linkKeys(), { id }),
    }
  }
  const countsOf = async (handOver: HandOver) => ({
    id: handOver.id,
    ...(await ledger.handOvers.counts(handOver)),
    refusedAt: (await ledger.handOvers.inState(handOver.id, 'refused', 1))[0]?.at ?? null,
    changed: await changedThere(ledger, handOver),
  })
  /** The key as it is typed, or as it is kept. */
  const keyOf = async (id: ConnectionId, way: Talk['way'], given?: string) =>
    given !== undefined ? { text: given, origins: originsOf(way) } : signIns.keyFor(id, way)

  routes.openapi(paths.readOutside, async (c) =>
    c.json(
      {
        connections: (await Promise.all(published().connections().map(standingOf))).map((one) =>
          // What calls back with it changes people, also once the key is withdrawn.
          allows(c.get('bearer'), 'own') ? one : { ...one, backAddress: '' },
        ),
        handOvers: await Promise.all(published().handOvers().map(countsOf)),
        services: shippedServices(settings.serviceStandIns),
        folder: parts.folder,
      },
      200,
    ),
  )

  routes.openapi(paths.keepKey, async (c) => {
    const { id } = c.req.valid('param')
    const { key, origins } = c.req.valid('json')
    const way = published().connection(id)?.way
    const before = way?.kind === 'webhook' ? await keys.key(id) : null
    const kept: Key | null =
      key === null
        ? null
        : {
            text: key,
            origins: origins ?? (way === undefined ? [] : originsOf(way)),
            ...(before !== null && { before: { text: before.text, until: now() + BOTH_SECRETS_MS } }),
          }
    await keys.keep(id, kept)
    await workers.goOn(id)
    return c.json(await standingOf({ id }), 200)
  })

  routes.openapi(paths.saveKeys, async (c) =>
    c.json({ sealed: await keys.asFile(c.req.valid('json').passphrase) }, 200),
  )
  routes.openapi(paths.openKeys, async (c) => {
    const { passphrase, sealed } = c.req.valid('json')
    const taken = await keys.takeFile(sealed, passphrase)
    if (taken === null)
      return conflict(c, 'Not opened', {
        code: 'wrong-passphrase',
        message: 'The passphrase is another, or this is no file of keys.',
      })
    for (const id of taken) await workers.goOn(id)
    return c.json({ count: taken.length }, 200)
  })

  routes.openapi(paths.goOnWith, async (c) => {
    const connection = published().connection(c.req.valid('param').id)
    if (connection === null) return notHere(c)
    await workers.goOn(connection.id)
    return c.json(await standingOf(connection), 200)
  })

  routes.openapi(paths.askConnection, async (c) => {
    const { connection, way, key, what, values } = c.req.valid('json')
    const talk: Talk = { way, key: await keyOf(connection, way, key), client }
    const answer: AskedService = {
      means: 'cannot',
      said: '',
      account: null,
      lists: [],
      fields: [],
      member: null,
      exchange: null,
    }
    if (what === 'lists' || what === 'fields') {
      const { items, ...came } =
        what === 'lists' ? await listedBy(talk, what, values) : await listedBy(talk, 'fields', values)
      return c.json({ ...answer, ...came, [what]: items }, 200)
    }
    const asked = await client.ask(way, what, what === 'members' ? { page: 1, ...values } : values, talk)
    const account = textAt(asked.json, way.service.requests.account?.read?.name)
    return c.json(
      {
        ...answer,
        means: asked.means,
        said: asked.said,
        account: what === 'account' ? account : null,
        member: what === 'find' && asked.means === 'done' ? memberIn(way.service, 'find', asked.json) : null,
        exchange: asked.exchange,
      },
      200,
    )
  })

  routes.openapi(paths.signInAt, async (c) => {
    const { service, asked } = c.req.valid('json')
    return c.json({ address: await signIns.begin(c.req.valid('param').id, { kind: 'api', service, asked }) }, 200)
  })

  routes.openapi(paths.tryOut, async (c) => {
    const { connection, handOver, key, mark } = c.req.valid('json')
    const { way } = connection
    const sent = way.kind === 'api' ? await keyOf(connection.id, way, key) : null
    return c.json(
      await tryHandOver({
        connection,
        handOver,
        parts: { ...parts, ledger },
        key: sent,
        mark: mark ?? newId<string>(),
      }),
      200,
    )
  })

  routes.openapi(paths.beginHandingOver, async (c) => {
    const handOver = published().handOver(c.req.valid('param').id)
    if (handOver === null) return notHere(c)
    await ledger.handOvers.begin(handOver)
    workers.wake()
    return c.json(await countsOf(handOver), 200)
  })

  routes.openapi(paths.handOverAgain, async (c) => {
    const handOver = published().handOver(c.req.valid('param').id)
    if (handOver === null) return notHere(c)
    const given = c.req.valid('json').members
    const members =
      given ?? (await ledger.handOvers.inState(handOver.id, 'refused', 10_000)).map(({ member }) => member)
    await ledger.handOvers.again(handOver, members)
    await workers.goOn(handOver.connection)
    return c.json(await countsOf(handOver), 200)
  })

  routes.openapi(paths.listRefused, async (c) => {
    const { id } = c.req.valid('param')
    const refused = await ledger.handOvers.inState(id, 'refused', MOST_LISTED)
    const handed = await Promise.all(
      refused.map(async (one) => ({ ...shown(one), email: (await ledger.member(one.member))?.email.typed ?? '' })),
    )
    return c.json({ handed }, 200)
  })

  routes.openapi(paths.handedOf, async (c) =>
    c.json({ handed: (await ledger.handOvers.handedOf(c.req.valid('param').member)).map(shown) }, 200),
  )

  /** What a service is asked with, for a hand-over of it. */
  async function talkOf(id: HandOverId): Promise<{ handOver: HandOver; talk: Talk } | null> {
    const handOver = published().handOver(id)
    const way = handOver === null ? undefined : published().connection(handOver.connection)?.way
    if (handOver === null || way?.kind !== 'api') return null
    return { handOver, talk: { way, key: await keyOf(handOver.connection, way), client } }
  }

  routes.openapi(paths.beginComparing, async (c) => {
    const both = await talkOf(c.req.valid('param').id)
    return both === null ? notHere(c) : c.json(await comparisons.begin(both.handOver, both.talk), 200)
  })
  routes.openapi(paths.readComparison, async (c) => c.json(await comparisons.state(c.req.valid('param').id), 200))
  routes.openapi(paths.stopComparing, async (c) => {
    const { id } = c.req.valid('param')
    await comparisons.stop(id)
    return c.json(await comparisons.state(id), 200)
  })
  routes.openapi(paths.foundPeople, async (c) => {
    const { id, standing } = c.req.valid('param')
    return c.json({ people: await comparisons.found(id, standing) }, 200)
  })
  routes.openapi(paths.mend, async (c) => {
    const { id } = c.req.valid('param')
    const handOver = published().handOver(id)
    if (handOver === null) return notHere(c)
    const { standing } = c.req.valid('json')
    const members = membersOf(await comparisons.found(id, standing))
    for (let at = 0; at < members.length; at += MOST_LISTED)
      await ledger.handOvers.again(handOver, members.slice(at, at + MOST_LISTED), { isMend: standing === 'differs' })
    workers.wake()
    return c.json({ count: members.length }, 200)
  })
}

const shown = ({ handOver, member, state, at, said }: Handed) => ({ handOver, member, state, at, said })

function notHere(c: Context) {
  return refused(c, { status: 404, title: 'Not here', detail: 'The receiver does not know it, or not yet.' })
}
