import type { HandedOn } from '#core/proof'
import { type Connection, type HandOver, type Wanted, wantedOf } from '#core/connection'
import type { Member } from '#core/list'
import type { Ledger } from '../ledger'
import { newId } from '../random'
import { handToApi, lookUp, seenAsWanted, type Talk } from './hand'
import type { ApiWay, Client } from './client'
import { rehearseTable } from './files'
import type { HandOverApi } from './parts'
import type { Key } from './keys'
import { formRequest, webhookRequest } from './webhook-requests'

/**
 * Hands a made-up person of a rehearsal on as their list is handed on, looks them up there, and takes them off again: on
 * stand-ins always, elsewhere where the connection's owner said yes.
 *
 * @param standIns origin of the stand-in services; null where none run
 */
export async function rehearseHandOvers(
  member: Member,
  ledger: Ledger,
  parts: Pick<HandOverApi, 'keys' | 'signIns' | 'client' | 'folder'>,
  standIns: string | null,
): Promise<HandedOn[]> {
  const published = ledger.published()
  const results: HandedOn[] = []
  for (const handOver of published.handOversOf(member.list)) {
    const connection = published.connection(handOver.connection)
    if (connection === null || handOver.isPaused) continue
    const name = handOver.target?.name ?? connection.name
    if (connection.way.kind === 'file') {
      results.push({ name, ...(await rehearseTable(member, handOver, ledger, parts.folder)) })
      continue
    }
    const isStandIn = standIns !== null && addressOf(connection).startsWith(standIns)
    if (!isStandIn && !connection.isRehearsed)
      results.push({
        name,
        outcome: 'not-allowed',
        why: '',
        said: 'Not tried: rehearsals may send nobody there until you allow it at the connection.',
      })
    else results.push({ name, ...(await one(member, handOver, connection, parts)) })
  }
  return results
}

const addressOf = ({ way }: Connection) =>
  way.kind === 'api'
    ? way.service.base
    : way.kind === 'form-post'
      ? way.action
      : way.kind === 'webhook'
        ? way.address
        : ''

async function one(
  member: Member,
  handOver: HandOver,
  { id, way }: Connection,
  { keys, signIns, client }: Pick<HandOverApi, 'keys' | 'signIns' | 'client'>,
): Promise<Omit<HandedOn, 'name'>> {
  const wanted = wantedOf({ ...member, status: 'confirmed' }, handOver)
  const failed = (why: string, said: string) => ({ outcome: 'failed' as const, why, said })
  if (wanted.state !== 'there') return failed('refused', '')
  if (way.kind === 'form-post') {
    const sent = await client.send(formRequest(way, wanted.email, wanted.values))
    if (!('answer' in sent)) return failed('unreachable', sent.said)
    if (sent.answer.status >= 400) return failed('refused', `It answered ${sent.answer.status}.`)
    return {
      outcome: 'handed',
      why: '',
      said: `Handed over, not seen: look for ${wanted.email} there, and take it off.`,
    }
  }
  if (way.kind === 'webhook') return tellOf(member, handOver, way, await keys.key(id), client)
  if (way.kind !== 'api') return failed('refused', '')
  const key = way.service.key.way === 'oauth' ? await signIns.freshKey(id, way) : await keys.key(id)
  if (key === null) return failed('key-refused', 'It has no key.')
  const talk: Talk = { way, key, client }
  // As real people go: who is asked to confirm there is asked as well.
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
  const wrong = seenAsWanted(found.member, wanted)
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

async function seenThere(talk: Talk, list: string, wanted: Extract<Wanted, { state: 'there' }>) {
  let found = await lookUp(talk, list, wanted.email)
  for (const ms of LOOKS_MS) {
    if (!found.ok && found.asked.means !== 'later') return found
    if (found.ok && (found.member?.status === 'waiting' || seenAsWanted(found.member, wanted) === null)) return found
    await new Promise((resolve) => setTimeout(resolve, ms))
    found = await lookUp(talk, list, wanted.email)
  }
  return found
}

/** Whether it is asked for people of one list, so that who is found is in it. */
function asksByList({ service }: ApiWay): boolean {
  const { find } = service.requests
  // RFC 6570 in the address, as in {?list,email}; in a body, the name alone.
  return (
    /\{[^{}]*\blist\b[^{}]*\}/.test(find?.address ?? '') || /\{list\}/.test(JSON.stringify([find?.json, find?.form]))
  )
}

/** Who is not in the list that was chosen may be in another. */
async function whereElse(talk: Talk, list: string, email: string): Promise<string> {
  const found = list === '' ? null : await lookUp(talk, '', email)
  const other = found?.ok === true ? found.member?.list : undefined
  return other === undefined || other === null || other === list ? '' : `, but in another list (${other})`
}

/** Not proven: a made-up person cannot press the link in the service's own mail. */
const TO_CONFIRM: Omit<HandedOn, 'name'> = {
  outcome: 'to-confirm',
  why: '',
  said: 'Accepted, to confirm there: on its list is who presses the link in its own mail, which no made-up person can.',
}

/** A webhook is told of somebody who joined, and then that they are erased. */
async function tellOf(
  member: Member,
  handOver: HandOver,
  way: Extract<Connection['way'], { kind: 'webhook' }>,
  key: Key | null,
  client: Client,
): Promise<Omit<HandedOn, 'name'>> {
  const failed = (why: string, said: string) => ({ outcome: 'failed' as const, why, said })
  if (key === null) return failed('key-refused', 'It has no secret.')
  const email = member.email.typed
  for (const event of ['joined', 'erased'] as const) {
    const now = Date.now()
    const told = { id: newId<string>(), event, at: now, handOver, email, member: event === 'joined' ? member : null }
    const sent = await client.send(webhookRequest(way, key, told, now))
    if (!('answer' in sent)) return failed('unreachable', sent.said)
    const { status, body } = sent.answer
    // Standard Webhooks: what is not signed as it should be, or too old, is refused.
    if (status >= 400) return failed('signature', `It answered ${status}. ${body.toString('utf8').slice(0, 200)}`)
  }
  return { outcome: 'handed', why: '', said: 'Told, and taken: what it makes of it is seen there.' }
}
