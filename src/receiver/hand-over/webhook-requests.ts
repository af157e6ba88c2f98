import { createHash } from 'node:crypto'
import { Webhook } from 'standardwebhooks'
import { type Connection, formText, type HandOver, type PlainRequest, type WebhookEvent } from '#core/connection'
import type { Member } from '#core/list'
import type { Key } from './keys'

type WebhookWay = Extract<Connection['way'], { kind: 'webhook' }>
type FormWay = Extract<Connection['way'], { kind: 'form-post' }>

/** One event that a webhook is told of. */
export interface ToldEvent {
  /** Of the job, the same at each try. */
  id: string
  event: WebhookEvent
  /** Milliseconds since 1970. */
  at: number
  handOver: HandOver
  email: string
  member: Member | null
}

/** One event, as the payload of a Standard Webhooks message. */
export function webhookRequest(way: WebhookWay, key: Key, told: ToldEvent, now: number): PlainRequest {
  return signed(way, key, { id: told.id, payload: payloadOf(told) }, now)
}

/**
 * Several events in one message, for receivers that read such: `data.events` holds what each would be told by itself, with
 * its id, by which one that comes again is known.
 */
export function webhookBatchRequest(way: WebhookWay, key: Key, told: readonly ToldEvent[], now: number): PlainRequest {
  const events = told.map((one) => ({ id: one.id, ...payloadOf(one) }))
  const id = createHash('sha256')
    .update(told.map((one) => one.id).join('\n'))
    .digest('base64url')
  const payload = { type: 'member.events', timestamp: new Date(now).toISOString(), data: { events } }
  return signed(way, key, { id, payload }, now)
}

function payloadOf({ event, at, handOver, email, member }: ToldEvent) {
  const data = {
    list: handOver.list,
    member: {
      email,
      ...(member !== null && {
        id: member.id,
        status: member.status,
        values: member.values,
        tags: member.tags ?? [],
        joinedAt: member.joinedAt,
      }),
    },
  }
  return { type: `member.${event}`, timestamp: new Date(at).toISOString(), data }
}

/**
 * Signed as Standard Webhooks says: by its id a message is known again when it is sent once more, by its time it is too old
 * to be replayed. While a secret is being changed, it is signed with both.
 */
function signed(
  { address }: WebhookWay,
  key: Key,
  { id, payload }: { id: string; payload: object },
  now: number,
): PlainRequest {
  const body = JSON.stringify(payload)
  const secrets = [key.text, ...(key.before !== undefined && key.before.until > now ? [key.before.text] : [])]
  // Versions 1.0.0, “Signature scheme”: several signatures, a space between.
  const time = new Date(now)
  const signature = secrets.map((secret) => new Webhook(secret).sign(id, time, body)).join(' ')
  return {
    method: 'POST',
    address,
    headers: {
      'Content-Type': 'application/json',
      'webhook-id': id,
      'webhook-timestamp': String(Math.floor(now / 1000)),
      'webhook-signature': signature,
    },
    body,
  }
}

/** What a service's own form would send. */
export function formRequest(way: FormWay, email: string, values: Record<string, string>): PlainRequest {
  const pairs: [string, string][] = [
    ...way.fixed.map(({ name, value }): [string, string] => [name, value]),
    [way.email, email],
    ...Object.entries(values),
  ]
  return {
    method: 'POST',
    address: way.action,
    headers: { 'Content-Type': 'application/x-www-form-urlencoded', Accept: 'text/html, */*' },
    body: formText(pairs),
  }
}
