import { type Connection, type HandOver, type Wanted, wantedOf } from '#core/connection'
import type { TriedHandOver } from '#core/api'
import type { Client, SentKey } from './client'
import { handToApi, lookUp, seenAsWanted, type Talk } from './hand'
import { formRequest } from './webhook-requests'

type Step = TriedHandOver['steps'][number]

/** A made-up person with something in each field that is matched: of `example`, so that no mail ever goes anywhere. */
export function madeUpFor(handOver: HandOver, mark: string): Extract<Wanted, { state: 'there' }> {
  const email = `askbox-trial-${mark}@trial.example`
  const wanted = wantedOf(
    {
      email: { typed: email, compared: email },
      values: Object.fromEntries(handOver.fields.map(({ column }) => [column, '12'])),
      tags: handOver.sendsTags ? ['ask-box-trial'] : [],
      status: 'confirmed',
    } as never,
    handOver,
  )
  return wanted as Extract<Wanted, { state: 'there' }>
}

/** Sends one made-up person there, looks whether they arrived as they were sent, and takes them off again. */
export async function tryHandOver(
  { way }: Connection,
  handOver: HandOver,
  client: Client,
  key: SentKey | null,
  mark: string,
): Promise<TriedHandOver> {
  const wanted = madeUpFor(handOver, mark)
  const steps: Step[] = []
  const tried = { email: wanted.email, steps }
  if (way.kind === 'form-post') {
    const sent = await client.send(formRequest(way, wanted.email, wanted.values))
    const status = 'answer' in sent ? sent.answer.status : null
    const isDone = status !== null && status < 400
    steps.push({
      step: 'put',
      isDone,
      means: status === null ? 'unreachable' : isDone ? 'done' : 'refused',
      said: 'answer' in sent ? `It answered ${sent.answer.status}.` : sent.said,
    })
    steps.push({ step: 'seen', isDone: false, means: 'cannot', said: 'Handed over, not seen: look for it there.' })
    steps.push({ step: 'off', isDone: false, means: 'cannot', said: `Take ${wanted.email} off there yourself.` })
    return tried
  }
  if (way.kind !== 'api') return tried
  const talk: Talk = { way, key, client }
  // Nobody is asked to confirm an address that does not exist.
  const put = await handToApi(talk, { ...handOver, confirmsThere: false }, wanted)
  steps.push({
    step: 'put',
    isDone: put.means === 'done' || put.means === 'to-confirm',
    means: put.means,
    said: put.said,
  })
  if (put.means !== 'done' && put.means !== 'to-confirm') return tried
  const list = handOver.target?.id ?? ''
  const found = await lookUp(talk, list, wanted.email)
  if (found.ok) {
    const wrong = seenAsWanted(found.member, wanted)
    const isWaiting = found.member?.status === 'waiting'
    steps.push({
      step: 'seen',
      isDone: wrong === null && !isWaiting,
      means: wrong !== null ? 'refused' : isWaiting ? 'to-confirm' : 'done',
      said:
        wrong !== null
          ? `The made-up person ${wrong}.`
          : isWaiting
            ? 'Accepted, to confirm there: whoever goes there is on its list once they pressed the link in its own mail.'
            : 'There, with the right values.',
    })
  } else steps.push({ step: 'seen', isDone: false, means: found.asked.means, said: found.asked.said })
  const off = await handToApi(talk, handOver, { state: 'off', email: wanted.email })
  steps.push({ step: 'off', isDone: off.means === 'done', means: off.means, said: off.said })
  return tried
}
