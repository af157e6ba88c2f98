import { type ChangedThere, changesThere, type HandOver, type TheirField } from '#core/connection'
import type { HandOverId } from '#core/ids'
import type { Ledger } from '../ledger'
import { listedBy, lookUp } from './hand'
import type { Talk } from './talk'
import type { HandOverApi } from './parts'

/** What a service had when it was looked last. */
interface Seen {
  at: number
  /** The list that people went into then. */
  target: string
  /** Null where it was not there. */
  list: { name: string } | null
  /** Null where the service does not tell them. */
  fields: TheirField[] | null
}

const seenName = (id: HandOverId) => `seen-there ${id}`
const turnName = (id: HandOverId) => `confirmed-there ${id}`

/** What a service had otherwise than a hand-over expects it now; null for nothing, and where it was not looked yet. */
export async function changedThere(ledger: Ledger, handOver: HandOver): Promise<ChangedThere | null> {
  const seen = (await ledger.values.value(seenName(handOver.id))) as Seen | null
  if (seen === null || seen.target !== (handOver.target?.id ?? '')) return null
  return changesThere(handOver, seen.list, seen.fields)
}

/**
 * Looks at each service that people go to whether its list and its fields are still what was chosen: some services take
 * what they do not know without a word.
 *
 * @returns how many hand-overs were looked at
 */
export async function lookAtServices(
  ledger: Ledger,
  { keys, signIns, client, now }: Pick<HandOverApi, 'keys' | 'signIns' | 'client' | 'now'>,
): Promise<number> {
  const published = ledger.published()
  let looked = 0
  for (const { id, way } of published.connections()) {
    const handOvers = published.handOvers().filter(({ connection, isPaused }) => connection === id && !isPaused)
    if (way.kind !== 'api' || handOvers.length === 0) continue
    const { halted } = await keys.state(id)
    // Without a key that is taken there is nothing to see.
    if (halted !== undefined && halted.means !== 'list-gone') continue
    const key = await signIns.keyFor(id, way)
    if (key === null) continue
    const talk: Talk = { way, key, client }
    const lists = await listedBy(talk, 'lists', {})
    if (lists.means !== 'done') continue
    for (const handOver of handOvers) {
      await lookForConfirmed(ledger, talk, handOver, now())
      const target = handOver.target?.id ?? ''
      const list = lists.items.find((one) => one.id === target) ?? null
      const fields = list === null ? null : await fieldsOf(talk, target)
      if (fields === 'not told') continue
      const seen: Seen = { at: now(), target, list: list === null ? null : { name: list.name }, fields }
      await ledger.values.keep(seenName(handOver.id), seen)
      looked += 1
    }
  }
  return looked
}

/** As many are looked up at once. */
const LOOKED_UP = 200

/** Looks up people who had to confirm at the service: those on its list now have. */
async function lookForConfirmed(ledger: Ledger, talk: Talk, handOver: HandOver, now: number): Promise<void> {
  if (talk.way.service.requests.find === undefined) return
  // Where more wait than are looked up at once, the next ones have their turn next time.
  const turn = turnName(handOver.id)
  const skipped = Number((await ledger.values.value(turn)) ?? 0)
  const waiting = await ledger.handOvers.inState(handOver.id, 'to-confirm', LOOKED_UP, skipped)
  const next = waiting.length < LOOKED_UP ? 0 : skipped + LOOKED_UP
  if (next !== skipped) await ledger.values.keep(turn, next)
  for (const handed of waiting) {
    const member = await ledger.member(handed.member)
    if (member === null) continue
    const found = await lookUp(talk, handOver.target?.id ?? '', member.email.typed)
    if (!found.ok) return
    if (found.member?.status === 'on')
      await ledger.handOvers.note({ ...handed, state: 'there', at: now, said: 'Confirmed there.' })
  }
}

async function fieldsOf(talk: Talk, list: string): Promise<TheirField[] | null | 'not told'> {
  if (talk.way.service.requests.fields === undefined) return null
  const { means, items } = await listedBy(talk, 'fields', { list })
  return means === 'done' ? items : 'not told'
}

/** Deletes observations of removed hand-overs. */
export async function forgetSeen(ledger: Ledger): Promise<void> {
  const published = ledger.published()
  for (const nameOf of [seenName, turnName]) {
    const prefix = nameOf('' as HandOverId)
    for (const { name } of await ledger.values.named(prefix))
      if (published.handOver(name.slice(prefix.length) as HandOverId) === null) await ledger.values.drop(name)
  }
}
