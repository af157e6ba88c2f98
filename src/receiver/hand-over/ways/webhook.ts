import type { Connection } from '#core/connection'
import { newId } from '../../random'
import { webhookBatchRequest, webhookRequest } from '../webhook-requests'
import { failed, outcomeOf, type HandOverWay, type WayOf, type WayParts } from './way'

/** An address that is told of all that happens, one event after the other (Standard Webhooks). */
export function webhookWay({ id }: Connection, way: WayOf<'webhook'>, { client, keys, now }: WayParts): HandOverWay {
  return {
    pace: undefined,
    address: way.address,
    wishes: (event) => way.events.length === 0 || way.events.includes(event),
    // Retried events go alone: one that its receiver cannot read holds up no other.
    together(jobs) {
      if (way.takesMany !== true) return 1
      const triedBefore = jobs.findIndex((job) => job.attempts > 0)
      return triedBefore === 0 ? 1 : triedBefore < 0 ? jobs.length : triedBefore
    },
    async hand(pieces) {
      const key = await keys.key(id)
      if (key === null) return { means: 'key-refused', said: 'It has no secret yet.', retryAt: null }
      const events = pieces.map(({ job, event, handOver, email, member }) => ({
        ...{ id: job.id, event, at: job.queued, handOver, email, member },
      }))
      const request =
        events.length === 1 ? webhookRequest(way, key, events[0]!, now()) : webhookBatchRequest(way, key, events, now())
      return outcomeOf(await client.send(request), '')
    },
    tryOut: async () => [],
    /** Told of somebody who joined, and then that they are erased. */
    async rehearse(member, handOver) {
      const key = await keys.key(id)
      if (key === null) return failed('key-refused', 'It has no secret.')
      const email = member.email.typed
      for (const event of ['joined', 'erased'] as const) {
        const at = now()
        const told = { id: newId<string>(), event, at, handOver, email, member: event === 'joined' ? member : null }
        const sent = await client.send(webhookRequest(way, key, told, at))
        if (!('answer' in sent)) return failed('unreachable', sent.said)
        const { status, body } = sent.answer
        // Standard Webhooks: wrong or old signatures are refused.
        if (status >= 400) return failed('signature', `It answered ${status}. ${body.toString('utf8').slice(0, 200)}`)
      }
      return { outcome: 'handed', why: '', said: 'Told, and taken: what it makes of it is seen there.' }
    },
  }
}
