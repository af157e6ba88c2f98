import { type Connection, type HandOver, USUAL_MOST } from '#core/connection'
import { canGoTogether, consequenceOf, type HandedOver, handManyToApi, handToApi, lookUp, seenAsWanted } from '../hand'
import type { Talk } from '../talk'
import {
  failed,
  type Rehearsed,
  type TriedStep,
  type WantedThere,
  type HandOverWay,
  type WayOf,
  type WayParts,
} from './way'

type ApiWay = WayOf<'api'>

/** A service by its key, as its service file tells. */
export function apiWay({ id }: Connection, way: ApiWay, { client, signIns }: WayParts): HandOverWay {
  return {
    pace: way.service.pace,
    address: way.service.base,
    wishes: () => true,
    // Retried people go alone: one whom a service refuses holds up no other.
    together(jobs) {
      if (way.service.requests.putMany === undefined) return 1
      const most = way.service.requests.putMany.most ?? USUAL_MOST
      const triedBefore = jobs.findIndex((job) => job.attempts > 0)
      return Math.min(most, triedBefore === 0 ? 1 : triedBefore < 0 ? jobs.length : triedBefore)
    },
    async hand(pieces, turn) {
      const key = await signIns.keyFor(id, way)
      if (key === null) return { means: 'key-refused', said: 'It has no key yet.', retryAt: null }
      const talk = { way, key, client }
      const { handOver } = pieces[0]!
      const people = pieces.flatMap(({ wanted, sent }) => (wanted.state === 'there' ? [{ wanted, before: sent }] : []))
      const isOneKind = people.length === pieces.length && pieces.every((one) => one.handOver.id === handOver.id)
      let isFirst = true
      if (pieces.length > 1 && isOneKind && canGoTogether(way, handOver)) {
        const each = await handManyToApi(talk, handOver, people)
        if (each !== null) return { ...worst(each), each }
        isFirst = false
      }
      // One after the other, in its pace.
      const each: HandedOver[] = []
      for (const { handOver, wanted, sent } of pieces) {
        if (!isFirst) await turn()
        isFirst = false
        const one = await handToApi(talk, handOver, wanted, sent)
        each.push(one)
        // The others are not sent into the same answer.
        if (consequenceOf(one.means) === 'halt' || consequenceOf(one.means) === 'later') break
      }
      const last = each.at(-1)!
      return { ...worst(each), each: pieces.map((_, at) => each[at] ?? last) }
    },
    tryOut: (handOver, wanted, key) => tryOut({ way, key, client }, handOver, wanted),
    async rehearse(_, handOver, wanted) {
      const key = await signIns.keyFor(id, way)
      return key === null ? failed('key-refused', 'It has no key.') : rehearse({ way, key, client }, handOver, wanted)
    },
  }
}

/** What answers about several people mean for the connection. */
function worst(each: readonly HandedOver[]): HandedOver {
  for (const consequence of ['halt', 'later', 'done'] as const) {
    const one = each.find(({ means }) => consequenceOf(means) === consequence)
    if (one !== undefined) return one
  }
  return each[0]!
}

async function tryOut(talk: Talk, handOver: HandOver, wanted: WantedThere): Promise<TriedStep[]> {
  const steps: TriedStep[] = []
  // Nobody is asked to confirm an address that does not exist.
  const put = await handToApi(talk, { ...handOver, confirmsThere: false }, wanted)
  steps.push({
    step: 'put',
    isDone: put.means === 'done' || put.means === 'to-confirm',
    means: put.means,
    said: put.said,
  })
  if (put.means !== 'done' && put.means !== 'to-confirm') {
    // What was refused may have been taken in part.
    if (put.means === 'refused') await handToApi(talk, handOver, { state: 'off', email: wanted.email })
    return steps
  }
  const list = handOver.target?.id ?? ''
  const found = await lookUp(talk, list, wanted.email)
  if (found.ok) {
    const wrong = seenAsWanted(talk.way, found.member, wanted)
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
    // A lookup that finds anybody proves nothing.
    const nobody = await lookUp(talk, list, `nobody-${wanted.email}`)
    const isWrong = nobody.ok && nobody.member !== null
    steps.push({
      step: 'absent',
      isDone: nobody.ok && !isWrong,
      means: nobody.ok ? (isWrong ? 'refused' : 'done') : nobody.asked.means,
      said: isWrong ? 'It finds somebody who was never there.' : nobody.ok ? '' : nobody.asked.said,
    })
  } else steps.push({ step: 'seen', isDone: false, means: found.asked.means, said: found.asked.said })
  const off = await handToApi(talk, handOver, { state: 'off', email: wanted.email })
  steps.push({ step: 'off', isDone: off.means === 'done', means: off.means, said: off.said })
  return steps
}

async function rehearse(talk: Talk, handOver: HandOver, wanted: WantedThere): Promise<Rehearsed> {
  const { way } = talk
  // As for real people: with confirmation at the service, where the hand-over asks for it.
  const put = await handToApi(talk, handOver, wanted)
  if (put.means !== 'done' && put.means !== 'to-confirm' && put.means !== 'already') return failed(put.means, put.said)
  if (way.service.requests.find === undefined)
    return put.means === 'to-confirm'
      ? TO_CONFIRM
      : { outcome: 'handed', why: '', said: 'Handed over, not seen: its service file does not say how to look.' }
  const list = handOver.target?.id ?? ''
  const found = await seenThere(talk, list, wanted)
  const off = await handToApi(talk, handOver, { state: 'off', email: wanted.email })
  const left = off.means === 'done' ? '' : ` ${wanted.email} could not be taken off again: do it there.`
  if (!found.ok) return failed(found.asked.means, found.asked.said)
  if (found.member?.status === 'waiting') return { ...TO_CONFIRM, said: `${TO_CONFIRM.said}${left}` }
  const wrong = seenAsWanted(talk.way, found.member, wanted)
  if (wrong !== null)
    return failed('not-seen', `the made-up person ${wrong}${await whereElse(talk, list, wanted.email)}.${left}`)
  if (list !== '' && found.member!.list === null && !asksByList(way))
    return {
      outcome: 'handed',
      why: '',
      said: `The service has them in its account, and does not tell in which list. Look there whether ${name(handOver)} has them.${left}`,
    }
  const along = [...Object.keys(wanted.values), ...(wanted.tags ?? []).map((tag) => `tag ${tag}`)]
  return {
    outcome: 'seen',
    why: '',
    said: `The service was asked and had them${along.length > 0 ? `, with ${along.join(', ')}` : ''}.${left === '' ? ' Taken off again.' : left}`,
  }
}

const name = ({ target }: HandOver) => (target === null ? 'its list' : `“${target.name}”`)

/** Services show people some seconds after they took them. */
const LOOKS_MS = [0, 500, 1_500, 3_000]

async function seenThere(talk: Talk, list: string, wanted: WantedThere) {
  let found = await lookUp(talk, list, wanted.email)
  for (const ms of LOOKS_MS) {
    if (!found.ok && found.asked.means !== 'later') return found
    if (found.ok && (found.member?.status === 'waiting' || seenAsWanted(talk.way, found.member, wanted) === null))
      return found
    await new Promise((resolve) => setTimeout(resolve, ms))
    found = await lookUp(talk, list, wanted.email)
  }
  return found
}

/** Whether the request names the list, so that a match is on it. */
function asksByList({ service }: ApiWay): boolean {
  const { find } = service.requests
  // RFC 6570 in the address, as in {?list,email}; in a body, the name alone.
  return (
    /\{[^{}]*\blist\b[^{}]*\}/.test(find?.address ?? '') || /\{list\}/.test(JSON.stringify([find?.json, find?.form]))
  )
}

/** A match outside the chosen list may be on another. */
async function whereElse(talk: Talk, list: string, email: string): Promise<string> {
  const found = list === '' ? null : await lookUp(talk, '', email)
  const other = found?.ok === true ? found.member?.list : undefined
  return other === undefined || other === null || other === list ? '' : `, but in another list (${other})`
}

/** Not proven: a made-up person cannot press the link in the service's own mail. */
const TO_CONFIRM: Rehearsed = {
  outcome: 'to-confirm',
  why: '',
  said: 'Accepted, to confirm there: on its list is who presses the link in its own mail, which no made-up person can.',
}
