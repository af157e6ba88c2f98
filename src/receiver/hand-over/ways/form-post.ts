import type { Connection } from '#core/connection'
import { formRequest } from '../webhook-requests'
import { failed, outcomeOf, type HandOverWay, type WayOf, type WayParts } from './way'

/** A service's own form, posted as a browser would: nobody can be looked up there, or taken off. */
export function formPostWay(_: Connection, way: WayOf<'form-post'>, { client }: WayParts): HandOverWay {
  return {
    pace: undefined,
    address: way.action,
    wishes: () => true,
    together: () => 1,
    async hand([piece]) {
      const { wanted, email } = piece!
      if (wanted.state !== 'there')
        return { means: 'refused', said: 'A form takes nobody off: do it there.', retryAt: null }
      return outcomeOf(
        await client.send(formRequest(way, email, wanted.values)),
        'Posted; whether it was taken is seen there.',
      )
    },
    async tryOut(_, { email, values }) {
      const sent = await client.send(formRequest(way, email, values))
      const status = 'answer' in sent ? sent.answer.status : null
      const isDone = status !== null && status < 400
      return [
        {
          step: 'put',
          isDone,
          means: status === null ? 'unreachable' : isDone ? 'done' : 'refused',
          said: 'answer' in sent ? `It answered ${sent.answer.status}.` : sent.said,
        },
        { step: 'seen', isDone: false, means: 'cannot', said: 'Handed over, not seen: look for it there.' },
        { step: 'off', isDone: false, means: 'cannot', said: `Take ${email} off there yourself.` },
      ]
    },
    async rehearse(_, __, { email, values }) {
      const sent = await client.send(formRequest(way, email, values))
      if (!('answer' in sent)) return failed('unreachable', sent.said)
      if (sent.answer.status >= 400) return failed('refused', `It answered ${sent.answer.status}.`)
      const said = `Handed over, not seen: look for ${email} there, and take it off.`
      return { outcome: 'handed', why: '', said }
    },
  }
}
