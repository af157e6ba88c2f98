import { createHash } from 'node:crypto'
import {
  comparedAddress,
  differencesOf,
  fieldsIn,
  type HandOver,
  itemsIn,
  listsIn,
  memberIn,
  namesById,
  outcomeOfOne,
  type ServiceFile,
  textAt,
  textOfWanted,
  type TheirField,
  type TheirList,
  type TheirMember,
  type RequestValues,
  spelledValues,
  type WantedState,
} from '#core/connection'
import type { ApiWay, Asked, ServiceExchange } from './client'
import { tagIdsNamed, tagIdsOf } from './tag-ids'
import { ask, pagesOf, type Talk } from './talk'

/** Outcome of handing one person over. */
export interface HandedOver {
  means: Asked['means']
  said: string
  /** When to try again, in milliseconds since 1970; null for as usual. */
  retryAt: number | null
}

/** Names what somebody is to be: the same is not handed over twice. */
export function digestOf(wanted: WantedState): string {
  return createHash('sha256').update(textOfWanted(wanted)).digest('base64url').slice(0, 22)
}

/** Fields and tags sent before; those missing now are removed at the service. */
export interface SentBefore {
  /** Keys of fields. */
  keys: readonly string[]
  tags: readonly string[]
}
const NOTHING_SENT: SentBefore = { keys: [], tags: [] }

/** Brings a person at a service into the wanted state. Idempotent. */
export async function handToApi(
  talk: Talk,
  handOver: HandOver,
  wanted: WantedState,
  before: SentBefore = NOTHING_SENT,
): Promise<HandedOver> {
  const outcome = outcomeOf
  const list = handOver.target?.id ?? ''
  if (wanted.state === 'not-yet') return { means: 'done', said: '', retryAt: null }
  const about = { list, email: wanted.email }
  if (wanted.state === 'off') {
    const id = namesById(talk.way.service, 'off') ? await idOf(talk, about) : null
    if (id !== null && typeof id !== 'string')
      return id.means === 'absent' ? { ...outcome(id), means: 'done' } : outcome(id)
    const off = await ask(talk, 'off', { ...about, ...(id !== null && { id }) })
    // Absent, or left there: off.
    return outcome(off.means === 'absent' || off.means === 'opted-out' ? { ...off, means: 'done' } : off)
  }
  const person = wantedValues(talk.way.service, handOver, wanted, before)
  const ids = await tagIdsOf(talk, ['put', 'change'], { tags: wanted.tags ?? [], formerTags: person.formerTags })
  if (!('values' in ids)) return outcome(ids)
  const values: RequestValues = {
    ...about,
    ...person,
    ...ids.values,
    asks: handOver.confirmsThere,
  }
  // Where somebody is put by an id, it is found first.
  const idBefore = namesById(talk.way.service, 'put') ? await idOf(talk, about) : null
  if (idBefore !== null && typeof idBefore !== 'string') return outcome(idBefore)
  const put = await ask(talk, 'put', { ...values, ...(idBefore !== null && { id: idBefore }) })
  if (put.means === 'done' || put.means === 'already') {
    const joined = await joinList(talk, values, put)
    if (joined !== null && joined.means !== 'done' && joined.means !== 'already') return outcome(joined)
  }
  if (put.means === 'done' && handOver.confirmsThere && talk.way.service.requests.put.read?.status === undefined)
    return { ...outcome(put), ...((await waitsThere(talk, about)) && { means: 'to-confirm' }) }
  if (put.means !== 'already') return outcome(put)
  if (talk.way.service.requests.change === undefined) return outcome({ ...put, means: 'done' })
  const id = namesById(talk.way.service, 'change') ? await idOf(talk, about) : ''
  if (typeof id !== 'string')
    return id.means === 'absent'
      ? { means: 'refused', said: 'It says that they are there already, and does not find them.', retryAt: null }
      : outcome(id)
  return outcome(await ask(talk, 'change', { ...values, id }))
}

/** Whether somebody has yet to confirm at a service that asks them to and does not say so by itself. */
async function waitsThere(talk: Talk, about: { list: string; email: string }): Promise<boolean> {
  if (talk.way.service.requests.find === undefined) return true
  const found = await lookUp(talk, about.list, about.email)
  // As long as nobody knows, it is looked up again.
  return !found.ok || found.member?.status !== 'on'
}

/** What one person's hand-over sends in a request about several. */
export interface OneOfMany {
  wanted: Extract<WantedState, { state: 'there' }>
  before: SentBefore
}

/** Whether people of a hand-over may go several in one request: nothing else has to be done or asked about each. */
export const canGoTogether = ({ service }: ApiWay, { confirmsThere }: HandOver): boolean =>
  service.requests.putMany !== undefined && service.requests.join === undefined && !confirmsThere

/**
 * Puts several people on one list in one request.
 *
 * @returns the outcome of each, in their order; null where the request was refused as a whole, which says nothing of anybody
 */
export async function handManyToApi(
  talk: Talk,
  handOver: HandOver,
  people: readonly OneOfMany[],
): Promise<HandedOver[] | null> {
  const { service } = talk.way
  const tags = [...new Set(people.flatMap(({ wanted }) => wanted.tags ?? []))]
  const ids = await tagIdsOf(talk, ['putMany'], { tags, formerTags: [] })
  if (!('values' in ids)) return people.map(() => outcomeOf(ids))
  const put = await ask(talk, 'putMany', {
    list: handOver.target?.id ?? '',
    asks: handOver.confirmsThere,
    people: people.map(({ wanted, before }): RequestValues => ({
      ...wantedValues(service, handOver, wanted, before),
      ...(ids.values.tagIds !== undefined && { tagIds: tagIdsNamed(talk.way, wanted.tags ?? []) }),
    })),
  })
  const told = new Map(
    itemsIn(service, 'putMany', put.json).flatMap((item) => {
      const email = textAt(item, service.requests.putMany?.read?.email ?? '/email')
      return email === null ? [] : [[comparedAddress(email), outcomeOfOne(service, item)] as const]
    }),
  )
  if (told.size === 0 && consequenceOf(put.means) === 'refused') return null
  return people.map(({ wanted }) => {
    const one = told.get(comparedAddress(wanted.email))
    return one === undefined || one === null ? outcomeOf(put) : { ...one, retryAt: null }
  })
}

const outcomeOf = ({ means, said, retryAt }: Asked): HandedOver => ({ means, said, retryAt })

/** Address, fields and tags of somebody as a request is filled with them. */
function wantedValues(
  service: ServiceFile,
  { fields }: HandOver,
  wanted: Extract<WantedState, { state: 'there' }>,
  before: SentBefore,
) {
  // Matched fields only: the service may lack others by now.
  const emptied = before.keys.filter((sent) => fields.some(({ key }) => key === sent)).map((key) => [key, ''])
  return {
    email: wanted.email,
    fields: { ...Object.fromEntries(emptied), ...spelledValues(service, wanted.values) } as Record<string, string>,
    tags: wanted.tags,
    formerTags: before.tags.filter((tag) => wanted.tags?.includes(tag) !== true),
  }
}

/** Puts somebody who is known there on the list, where that is a request of its own; null where it is not. */
async function joinList(talk: Talk, values: RequestValues, put: Asked): Promise<Asked | null> {
  const { requests } = talk.way.service
  if (requests.join === undefined) return null
  const told = requests.put.read?.id === undefined ? null : textAt(put.json, requests.put.read.id)
  const about = { list: String(values.list), email: String(values.email) }
  const id = told ?? (namesById(talk.way.service, 'join') ? await idOf(talk, about, '') : '')
  return typeof id === 'string' ? ask(talk, 'join', { ...values, id }) : id
}

/** @param on the list that they have to be on; empty for any */
async function idOf(talk: Talk, about: { list: string; email: string }, on = about.list): Promise<string | Asked> {
  const found = await ask(talk, 'find', about)
  if (found.means !== 'done') return found
  const member = foundIn(talk, { ...about, list: on }, found.json)
  if (member === null) {
    // An answer without the address is no match, whatever its status.
    const isNamed = (JSON.stringify(found.json) ?? '').toLowerCase().includes(about.email.toLowerCase())
    return isNamed
      ? { ...found, means: 'refused', said: 'It answers with them, and its service file does not say where.' }
      : { ...found, means: 'absent', said: 'It found nobody.' }
  }
  return member.id ?? { ...found, means: 'refused', said: 'It does not tell by which id it knows them.' }
}

/** The match with the right address and list; a search may return others. */
function foundIn(talk: Talk, { list, email }: { list: string; email: string }, json: unknown): TheirMember | null {
  const member = memberIn(talk.way.service, 'find', json)
  if (member === null || comparedAddress(member.email) !== comparedAddress(email)) return null
  return member.list === null || list === '' || member.list === list ? member : null
}

/** Looks somebody up at a service; null for nobody. */
export async function lookUp(
  talk: Talk,
  list: string,
  email: string,
): Promise<{ ok: true; member: TheirMember | null; exchange: ServiceExchange | null } | { ok: false; asked: Asked }> {
  const found = await talk.client.ask(talk.way, 'find', { list, email }, talk)
  if (found.means === 'absent') return { ok: true, member: null, exchange: found.exchange }
  if (found.means !== 'done') return { ok: false, asked: found }
  return { ok: true, member: foundIn(talk, { list, email }, found.json), exchange: found.exchange }
}

/** Compares a match with the person that was sent; differences in words. */
export function seenAsWanted(
  { service }: ApiWay,
  member: TheirMember | null,
  wanted: Extract<WantedState, { state: 'there' }>,
): string | null {
  if (member === null || comparedAddress(member.email) !== comparedAddress(wanted.email)) return 'is not there'
  if (member.status === 'off') return 'is there, and off its list'
  if (member.status === 'unknown')
    return `is there as “${member.statusWord}”, which neither its service file nor common use explains`
  const [difference] = differencesOf(wanted, member, [], (values) => spelledValues(service, values))
  return difference === undefined
    ? null
    : `is there with “${difference.theirs}” in ${difference.part}, where “${difference.ours}” was handed over`
}

/** Lists and fields are read so far, for choosing. */
const MOST_READ = 2_000

/** All lists of a service, or all fields of a list, with the outcome of the request. */
export async function listedBy(talk: Talk, name: 'lists', values: RequestValues): Promise<Listed<TheirList>>
export async function listedBy(talk: Talk, name: 'fields', values: RequestValues): Promise<Listed<TheirField>>
export async function listedBy(
  talk: Talk,
  name: 'lists' | 'fields',
  values: RequestValues,
): Promise<Listed<TheirList | TheirField>> {
  const { service } = talk.way
  const items: (TheirList | TheirField)[] = []
  let first: Asked | null = null
  let last: Asked | null = null
  for await (const { asked } of pagesOf(talk, name, values)) {
    first ??= asked
    last = asked
    if (asked.means !== 'done' || items.length > MOST_READ) break
    items.push(...(name === 'lists' ? listsIn(service, asked.json) : fieldsIn(service, asked.json)))
  }
  if (name === 'fields')
    for (const { key, name: called } of service.ownFields ?? [])
      items.push({ key, name: called, kind: 'text', isRequired: false })
  // Where it went on for too long, what was read until then can be chosen from.
  if (last!.means === 'later' && last!.exchange === null && items.length > 0)
    return { items, means: 'done', said: last!.said, exchange: first!.exchange }
  // Where it cannot be asked for fields, those that its file names are all.
  const isNamed = name === 'fields' && last!.means === 'cannot' && items.length > 0
  return { items, means: isNamed ? 'done' : last!.means, said: isNamed ? '' : last!.said, exchange: first!.exchange }
}
interface Listed<Item> extends Pick<Asked, 'means' | 'said' | 'exchange'> {
  items: Item[]
}

/** Consequence of an outcome for the queue. */
export function consequenceOf(means: HandedOver['means']): 'done' | 'refused' | 'later' | 'halt' {
  const consequences: Record<HandedOver['means'], 'done' | 'refused' | 'later' | 'halt'> = {
    done: 'done',
    'to-confirm': 'done',
    already: 'done',
    absent: 'refused',
    'opted-out': 'refused',
    refused: 'refused',
    cannot: 'refused',
    'no-json': 'later',
    later: 'later',
    unreachable: 'later',
    'key-refused': 'halt',
    'key-not-sent': 'halt',
    'not-allowed': 'halt',
    'list-gone': 'halt',
  }
  return consequences[means]
}
