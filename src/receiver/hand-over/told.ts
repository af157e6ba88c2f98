import { Webhook } from 'standardwebhooks'
import { type Connection, formText, type HandOver, type PlainRequest, type WebhookEvent } from '#core/connection'
import type { Member } from '#core/list'
import type { Key } from './keys'

type WebhookWay = Extract<Connection['way'], { kind: 'webhook' }>
type FormWay = Extract<Connection['way'], { kind: 'form-post' }>

/**
 * What a webhook is told, signed as Standard Webhooks says: by its id it is known again when it is sent once more, by its
 * time it is too old to be replayed. While a secret is being changed, it is signed with both.
 *
 * @param id of the job, the same at each try
 */
export function webhookRequest(
  { address }: WebhookWay,
  key: Key,
  told: { id: string; event: WebhookEvent; at: number; handOver: HandOver; email: string; member: Member | null },
  now: number,
): PlainRequest {
  const { id, event, at, handOver, email, member } = told
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
  const body = JSON.stringify({ type: `member.${event}`, timestamp: new Date(at).toISOString(), data })
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
