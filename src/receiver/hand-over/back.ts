import { createHmac, timingSafeEqual } from 'node:crypto'
import { Webhook } from 'standardwebhooks'
import { comparedAddress, type Connection, textAt } from '#core/connection'
import { keepableText } from '#core/text'
import type { Ledger } from '../ledger'
import { digestOf } from './hand'
import type { HandOverApi } from './parts'

const tokenFor = (linkKey: string, id: string) =>
  createHmac('sha256', linkKey).update(`back ${id}`).digest('base64url').slice(0, 27)

/** Where a service can tell of who left there: whoever knows it may. */
export function backAddress(publicUrl: string, linkKey: string, { id }: Pick<Connection, 'id'>): string {
  return `${publicUrl}/back/${id}.${tokenFor(linkKey, id)}`
}

/** The connection that a part of an address names; null where neither its token nor the signature on the body is right. */
async function connectionOf(
  name: string,
  body: string,
  headers: Record<string, string>,
  ledger: Ledger,
  { keys }: Pick<HandOverApi, 'keys'>,
): Promise<Connection | null> {
  const [id = '', token = ''] = name.split('.')
  const connection = ledger.published().connection(id)
  if (connection === null) return null
  const expected = Buffer.from(tokenFor(await ledger.linkKey(), id))
  const given = Buffer.from(token)
  if (given.length === expected.length && timingSafeEqual(given, expected)) return connection
  const key = await keys.key(connection.id)
  if (key === null || headers['webhook-signature'] === undefined) return null
  try {
    new Webhook(key.text).verify(body, headers)
    return connection
  } catch {
    return null
  }
}

/** What came back from a service: who left or bounced there has left or bounced here too. */
export async function takeBack(
  name: string,
  body: string,
  headers: Record<string, string>,
  ledger: Ledger,
  parts: Pick<HandOverApi, 'keys' | 'now'>,
): Promise<'unknown' | 'unreadable' | number> {
  const connection = await connectionOf(name, body, headers, ledger, parts)
  if (connection === null) return 'unknown'
  const told = toldIn(connection, body)
  if (told === null) return 'unreadable'
  let changed = 0
  for (const handOver of ledger.published().handOvers()) {
    if (handOver.connection !== connection.id) continue
    if (told.list !== null && handOver.target !== null && told.list !== handOver.target.id) continue
    for (const { email, event } of told.people) {
      const member = await ledger.handOvers.withAddress(handOver.list, comparedAddress(email))
      if (member === null || (member.status !== 'confirmed' && member.status !== 'waiting')) continue
      // They are off there already: nothing is handed over because of it.
      await ledger.handOvers.note({
        handOver: handOver.id,
        member: member.id,
        state: 'off',
        at: parts.now(),
        digest: digestOf({ state: 'off', email: member.email.typed }),
        said: event === 'left' ? 'Left there.' : 'Bounced there.',
      })
      const isChanged =
        event === 'left'
          ? await ledger.leave(member.id, 'service')
          : await ledger.bounce(member.id, keepableText(`Told by ${connection.name}.`, 300))
      if (isChanged) changed += 1
    }
  }
  return changed
}

/** As the service file says, or as we say it ourselves: `{"event": "left", "email": "…"}`. */
function toldIn(
  { way }: Connection,
  body: string,
): { list: string | null; people: { email: string; event: 'left' | 'bounced' }[] } | null {
  let json: unknown
  try {
    json = JSON.parse(body)
  } catch {
    json = Object.fromEntries(new URLSearchParams(body))
  }
  const back = (way.kind === 'api' ? way.service.back : undefined) ?? {
    email: '/email',
    event: '/event',
    events: { left: 'left' as const, bounced: 'bounced' as const },
    list: undefined,
  }
  const all = Array.isArray(json) ? json : [json]
  const people = all.flatMap((one: unknown) => {
    const email = textAt(one, back.email)
    const name = textAt(one, back.event)
    if (email === null || name === null) return []
    const event = Object.hasOwn(back.events, name) ? back.events[name] : undefined
    return [{ email, event, list: back.list === undefined ? null : textAt(one, back.list) }]
  })
  if (people.length === 0) return null
  return {
    list: people[0]!.list,
    people: people.flatMap(({ email, event }) => (event === undefined ? [] : [{ email, event }])),
  }
}
