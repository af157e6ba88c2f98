import { type RequestName, type RequestValues, tagIdsIn, valueAt } from '#core/connection'
import type { ApiWay, Asked } from './client'
import { ask, pagesOf, type Talk } from './talk'

/** Ids of tags at a service, by name; kept for a while, for each person that goes there needs them. */
interface KnownTags {
  at: number
  byName: Map<string, string | number>
}
const KEPT_MS = 60_000
const known = new WeakMap<ApiWay, KnownTags>()
/** One after the other: two at once would each make a tag that is missing. */
const turns = new WeakMap<ApiWay, Promise<unknown>>()

/**
 * Ids of tags as a request is filled with them, where a service takes them by ids: those that are missing there are made.
 *
 * @param requests those that are to be filled
 * @returns the outcome of the request that did not succeed, where one did not
 */
export function tagIdsOf(
  talk: Talk,
  requests: readonly RequestName[],
  { tags, formerTags }: { tags: readonly string[]; formerTags: readonly string[] },
): Promise<{ values: RequestValues } | Asked> {
  const { service } = talk.way
  const isAsked = requests.some((name) =>
    /\{(?:tagIds|formerTagIds)\}|"each":"(?:tagIds|formerTagIds)"/.test(JSON.stringify(service.requests[name] ?? '')),
  )
  if (!isAsked || service.requests.tags === undefined) return Promise.resolve({ values: {} })
  const turn = (turns.get(talk.way) ?? Promise.resolve()).then(async () => {
    const problem = await learn(talk, tags)
    return (
      problem ?? { values: { tagIds: tagIdsNamed(talk.way, tags), formerTagIds: tagIdsNamed(talk.way, formerTags) } }
    )
  })
  turns.set(
    talk.way,
    turn.catch(() => {}),
  )
  return turn
}

/** By what was learnt last. */
export const tagIdsNamed = (way: ApiWay, names: readonly string[]) =>
  names.flatMap((name) => known.get(way)?.byName.get(name) ?? []) as string[]

async function learn(talk: Talk, tags: readonly string[]): Promise<Asked | null> {
  const before = known.get(talk.way)
  const isFresh = before !== undefined && performance.now() - before.at <= KEPT_MS
  if (isFresh && tags.every((tag) => before.byName.has(tag))) return null
  const now: KnownTags = { at: performance.now(), byName: new Map() }
  const unread = await read(talk, now)
  if (unread !== null) return unread
  for (const tag of tags.filter((one) => !now.byName.has(one))) {
    const made = await ask(talk, 'makeTag', { tag })
    if (made.means !== 'done')
      return { ...made, said: `The tag “${tag}” is not there, and could not be made. ${made.said}` }
    const id = valueAt(made.json, talk.way.service.requests.makeTag?.read?.id ?? '/id')
    if (typeof id === 'string' || typeof id === 'number') now.byName.set(tag, id)
    // It does not tell: its tags do.
    else if ((await read(talk, now)) !== null || !now.byName.has(tag))
      return { ...made, means: 'refused', said: `It made the tag “${tag}”, and does not tell its id.` }
  }
  known.set(talk.way, now)
  return null
}

async function read(talk: Talk, into: KnownTags): Promise<Asked | null> {
  for await (const { asked } of pagesOf(talk, 'tags', {})) {
    if (asked.means !== 'done') return asked
    for (const { id, name } of tagIdsIn(talk.way.service, asked.json)) into.byName.set(name, id)
  }
  return null
}
