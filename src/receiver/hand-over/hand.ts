import { createHash } from 'node:crypto'
import {
  comparedAddress,
  differencesOf,
  fieldsIn,
  type HandOver,
  itemsIn,
  listsIn,
  memberIn,
  nextPage,
  type RequestName,
  textOfWanted,
  type TheirField,
  type TheirList,
  type TheirMember,
  type Values,
  type Wanted,
} from '#core/connection'
import type { Asked, ApiWay, Client, Exchange } from './client'

/** What came of handing one person over. */
export interface HandedOver {
  means: Asked['means']
  said: string
  /** When to try again, in milliseconds since 1970; null for as usual. */
  retryAt: number | null
}

/** One service with its key, so that it can be asked several things in a row. */
export interface Talk {
  way: ApiWay
  key: string | null
  client: Client
}

/** Names what somebody is to be: the same is not handed over twice. */
export function digestOf(wanted: Wanted): string {
  return createHash('sha256').update(textOfWanted(wanted)).digest('base64url').slice(0, 22)
}

const ask = (talk: Talk, name: RequestName, values: Values) => talk.client.ask(talk.way, name, values, talk.key)

/** Has somebody at a service be what is wanted. Done again, it comes to the same. */
export async function handToApi(talk: Talk, handOver: HandOver, wanted: Wanted): Promise<HandedOver> {
  const outcome = ({ means, said, retryAt }: Asked): HandedOver => ({ means, said, retryAt })
  const list = handOver.target?.id ?? ''
  if (wanted.state === 'not-yet') return { means: 'done', said: '', retryAt: null }
  const about = { list, email: wanted.email }
  if (wanted.state === 'off') {
    const isById = talk.way.service.requests.off?.address.includes('{id}') === true
    const id = isById ? await idOf(talk, about) : null
    if (id !== null && typeof id !== 'string')
      return id.means === 'absent' ? { ...outcome(id), means: 'done' } : outcome(id)
    const off = await ask(talk, 'off', { ...about, ...(id !== null && { id }) })
    // Who is not there, or left there, is off.
    return outcome(off.means === 'absent' || off.means === 'opted-out' ? { ...off, means: 'done' } : off)
  }
  const values = { ...about, fields: wanted.values, tags: wanted.tags, asks: handOver.confirmsThere }
  const put = await ask(talk, 'put', values)
  if (put.means !== 'already') return outcome(put)
  if (talk.way.service.requests.change === undefined) return outcome({ ...put, means: 'done' })
  const id = await idOf(talk, about)
  if (typeof id !== 'string') return outcome(id)
  return outcome(await ask(talk, 'change', { ...values, id }))
}

async function idOf(talk: Talk, about: { list: string; email: string }): Promise<string | Asked> {
  const found = await ask(talk, 'find', about)
  if (found.means !== 'done') return found
  const member = memberIn(talk.way.service, 'find', found.json)
  if (member?.id === null || member === null) return { ...found, means: 'refused', said: 'It does not tell who it is.' }
  return member.id
}

/** Looks somebody up at a service; null for nobody. */
export async function lookUp(
  talk: Talk,
  list: string,
  email: string,
): Promise<{ ok: true; member: TheirMember | null; exchange: Exchange | null } | { ok: false; asked: Asked }> {
  const found = await talk.client.ask(talk.way, 'find', { list, email }, talk.key)
  if (found.means === 'absent') return { ok: true, member: null, exchange: found.exchange }
  if (found.means !== 'done') return { ok: false, asked: found }
  return { ok: true, member: memberIn(talk.way.service, 'find', found.json), exchange: found.exchange }
}

/** Whether who was found is who was handed over, with the right values. */
export function seenAsWanted(member: TheirMember | null, wanted: Extract<Wanted, { state: 'there' }>): string | null {
  if (member === null || comparedAddress(member.email) !== comparedAddress(wanted.email)) return 'is not there'
  if (member.status === 'off') return 'is there, and off its list'
  const [difference] = differencesOf(wanted, member)
  return difference === undefined
    ? null
    : `is there with “${difference.theirs}” in ${difference.part}, where “${difference.ours}” was handed over`
}

const MOST_PAGES = 10_000

/** Reads all that a service lists, page by page. Ends with the answer that was no page. */
export async function* pagesOf(
  talk: Talk,
  name: 'lists' | 'fields' | 'members',
  values: Values,
): AsyncGenerator<{ asked: Asked; items: unknown[] }> {
  let more: Values = name === 'fields' ? {} : { page: 1 }
  const seen = new Set<string>()
  for (let page = 1; page <= MOST_PAGES; page += 1) {
    const asked = await talk.client.ask(talk.way, name, { ...values, ...more }, talk.key)
    const items = asked.means === 'done' ? itemsIn(talk.way.service, name, asked.json) : []
    yield { asked, items }
    const next = asked.means === 'done' ? nextPage(talk.way.service, name, asked.json, page) : null
    // A service that names the same page again would be read for ever.
    if (next === null || seen.has(JSON.stringify(next))) return
    seen.add(JSON.stringify(next))
    more = next
  }
}

/** Lists and fields are read so far, for choosing. */
const MOST_READ = 2_000

/** All lists, or all fields of a list, that a service tells of; with what came of asking. */
export async function listedBy(talk: Talk, name: 'lists', values: Values): Promise<Listed<TheirList>>
export async function listedBy(talk: Talk, name: 'fields', values: Values): Promise<Listed<TheirField>>
export async function listedBy(
  talk: Talk,
  name: 'lists' | 'fields',
  values: Values,
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
  return { items, means: last!.means, said: last!.said, exchange: first!.exchange }
}
interface Listed<Item> extends Pick<Asked, 'means' | 'said' | 'exchange'> {
  items: Item[]
}

/** What an outcome is for whoever works off the queue. */
export function consequenceOf(means: HandedOver['means']): 'done' | 'refused' | 'later' | 'halt' {
  const consequences: Record<HandedOver['means'], 'done' | 'refused' | 'later' | 'halt'> = {
    done: 'done',
    already: 'done',
    absent: 'refused',
    'opted-out': 'refused',
    refused: 'refused',
    cannot: 'refused',
    'no-json': 'later',
    later: 'later',
    unreachable: 'later',
    'key-refused': 'halt',
    'not-allowed': 'halt',
    'list-gone': 'halt',
  }
  return consequences[means]
}
