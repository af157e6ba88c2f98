import { Webhook } from 'standardwebhooks'
import { comparedAddress, type Connection, type HandOver, textAt, valueAt } from '#core/connection'
import { parsedJson } from '#core/json'
import { keepableText } from '#core/text'
import type { Ledger } from '../ledger'
import { hasPassed } from '../clock'
import type { FoundOpening } from '../subject'
import { isSameText } from '../marks'
import type { LinkKeys } from '../secrets'
import { digestOf } from './hand'
import { HEARD, heardName } from './keys'
import type { HandOverApi } from './parts'

/** Address where a service reports people who left; knowing it is the permission. */
export function backAddress(publicUrl: string, keys: LinkKeys, { id }: Pick<Connection, 'id'>): string {
  return `${publicUrl}/back/${id}.${keys.serviceMarks(id)[0]}`
}

/** When it was last is written so often at most. */
const HEARD_EVERY_MS = 3_600_000

/** Addresses that services call back. */
export async function serviceOpenings(ledger: Ledger): Promise<FoundOpening[]> {
  const [keys, heard] = [await ledger.linkKeys(), await ledger.values.named(HEARD)]
  return ledger
    .published()
    .connections()
    .map(({ id, name }) => {
      const anew = keys.serviceAnew(id)
      const usedAt = heard.find((one) => one.name === heardName(id))?.value as number | undefined
      return {
        of: 'services',
        id,
        name,
        madeAt: anew?.at ?? null,
        by: anew?.by ?? null,
        usedAt: usedAt ?? null,
        until: null,
      }
    })
}

/** What a service sent. */
interface TakenBack {
  /** Part of the address that it was sent to. */
  name: string
  body: string
  headers: Record<string, string>
}

/** The connection that a part of an address names; null where neither its token nor the signature on the body is right. */
async function connectionOf(
  { name, body, headers }: TakenBack,
  ledger: Ledger,
  { keys }: Pick<HandOverApi, 'keys'>,
): Promise<Connection | null> {
  const [id = '', token = ''] = name.split('.')
  const connection = ledger.published().connection(id)
  if (connection === null) return null
  if ((await ledger.linkKeys()).serviceMarks(id).some((mark) => isSameText(token, mark))) return connection
  const key = await keys.key(connection.id)
  if (key === null || headers['webhook-signature'] === undefined) return null
  try {
    new Webhook(key.text).verify(body, headers)
    return connection
  } catch {
    return null
  }
}

/** Takes a service's reports: members who left or bounced there leave or bounce here. */
export async function takeBack({
  name,
  body,
  headers,
  ledger,
  parts,
}: TakenBack & {
  ledger: Ledger
  parts: Pick<HandOverApi, 'keys' | 'now'>
}): Promise<'unknown' | 'unreadable' | number> {
  const connection = await connectionOf({ name, body, headers }, ledger, parts)
  if (connection === null) return 'unknown'
  await ledger.values.change<number>(heardName(connection.id), (before) =>
    before === null || hasPassed(before, HEARD_EVERY_MS, parts.now()) ? parts.now() : before,
  )
  const told = toldIn(connection, body)
  if (told === null) return 'unreadable'
  let changed = 0
  for (const handOver of ledger.published().handOvers()) {
    if (handOver.connection !== connection.id) continue
    const ofList = told.filter(({ list }) => list === null || handOver.target === null || list === handOver.target.id)
    // So many share commits with each other, and leave room between them for sign-ups.
    for (let at = 0; at < ofList.length; at += TOGETHER) {
      const some = ofList.slice(at, at + TOGETHER)
      const outcomes = await Promise.all(some.map((one) => takeOne(one, { handOver, connection }, ledger, parts)))
      changed += outcomes.filter(Boolean).length
    }
  }
  return changed
}

/** Whether somebody was taken off because of it. */
async function takeOne(
  { email, event }: TakenEvent,
  { handOver, connection }: { handOver: HandOver; connection: Connection },
  ledger: Ledger,
  { now }: Pick<HandOverApi, 'now'>,
): Promise<boolean> {
  const member = await ledger.handOvers.withAddress(handOver.list, comparedAddress(email))
  if (member === null || (member.status !== 'confirmed' && member.status !== 'waiting')) return false
  // They are off there already: nothing is handed over because of it.
  await ledger.handOvers.note({
    handOver: handOver.id,
    member: member.id,
    state: 'off',
    at: now(),
    digest: digestOf({ state: 'off', email: member.email.typed }),
    said: event === 'left' ? 'Left there.' : 'Bounced there.',
  })
  return event === 'left'
    ? ledger.leave(member.id, 'service')
    : ledger.bounce(member.id, keepableText(`Told by ${connection.name}.`, 300))
}

/** One event of a kind that says something of somebody. */
interface TakenEvent {
  email: string
  event: 'left' | 'bounced'
  /** The list there that it is of; null for whichever. */
  list: string | null
}

const TOGETHER = 50

/**
 * What a body tells, as the service file says, or as we say it ourselves: `{"event": "left", "email": "…"}`. One event, an
 * array of them, or one a line. Null where no event with an address is in it.
 */
function toldIn({ way }: Connection, body: string): TakenEvent[] | null {
  const back = (way.kind === 'api' ? way.service.back : undefined) ?? {
    email: '/email',
    event: '/event',
    events: { left: 'left' as const, bounced: 'bounced' as const },
    list: undefined,
    each: undefined,
  }
  const whole = parsedJson(body)
  const documents = whole === undefined ? otherwise(body) : [whole]
  const all = documents.flatMap((one) => {
    const events = back.each === undefined ? one : valueAt(one, back.each)
    return Array.isArray(events) ? (events as unknown[]) : [events]
  })
  const people = all.flatMap((one: unknown) => {
    const email = textAt(one, back.email)
    const name = textAt(one, back.event)
    if (email === null || name === null) return []
    const event = Object.hasOwn(back.events, name) ? back.events[name] : undefined
    return [{ email, event, list: back.list === undefined ? null : textAt(one, back.list) }]
  })
  if (people.length === 0) return null
  return people.flatMap(({ email, event, list }) => (event === undefined ? [] : [{ email, event, list }]))
}

/** Bodies other than one JSON document: JSON Lines, or a form's fields. */
function otherwise(body: string): unknown[] {
  if (!/^\s*\{/.test(body)) return [Object.fromEntries(new URLSearchParams(body))]
  return body.split('\n').flatMap((line) => parsedJson(line) ?? [])
}
