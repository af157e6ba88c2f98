import type { Version } from '#core/form'
import { type Body, type Change, type Kind, keyOf, kindOf, referencesOf } from '#core/sync'
import { type Client } from '../client'
import { bodyHere, database, objectTables, requireJournal, syncedId, takeObject } from '../data'
import { pullObjects, sendChanges } from './changes'

/** An object to be published; of a form, other content than its draft's, or only to be tried. */
export interface Publishing {
  kind: Kind
  key: string
  as?: Partial<Pick<Version, 'content' | 'isTried'>>
}

/** How often another browser may publish the same meanwhile. */
const MOST_TRIES = 6

/**
 * Publishes the drafts of some objects together, after everything that they refer to: in one request, whole or not at
 * all. What is published is so here only once the receiver has it. Numbers follow those that other browsers published.
 *
 * @returns the versions that were made
 * @throws Error with words for the owner; Unreachable
 */
export async function publishTogether(client: Client, objects: readonly Publishing[], at: string): Promise<Version[]> {
  const { journal } = await client.describe()
  await pullObjects(client)
  await sendChanges(client, journal)
  for (let tries = 1; ; tries++) {
    // Only now: what was read is of the history that was here then.
    await requireJournal(journal)
    const changes = await Promise.all(
      objects.map((object, place) => publicationOf(object, at, aheadOf(objects, place))),
    )
    const { outcomes } = await client.sendChangesTogether(changes)
    if (outcomes.every(({ ok }) => ok)) {
      await database.transaction('rw', objectTables(), async () => {
        await requireJournal(journal)
        for (const [place, outcome] of outcomes.entries())
          if (outcome.ok) await takeObject({ ...changes[place]!, revision: outcome.revision })
      })
      return changes.flatMap(({ kind, body }) => (kind === 'version' ? [body as Version] : []))
    }
    const problem = outcomes.find(
      (outcome) => !outcome.ok && 'problem' in outcome && outcome.problem.code !== 'version-taken',
    )
    if (problem !== undefined && 'problem' in problem) throw new Error(problem.problem.message)
    if (tries === MOST_TRIES) throw new Error('another browser changes it again and again')
    // Another browser has published meanwhile. What it did is taken in; this draft becomes the one after.
    await pullObjects(client)
  }
}

/** The change that publishes an object as it is here. */
async function publicationOf(
  { kind, key, as }: Publishing,
  at: string,
  ahead: number,
): Promise<Change & { body: Body }> {
  const body = await bodyHere(kind, key)
  const { publication } = kindOf(kind)
  if (body === null || publication === undefined) throw new Error('This does not exist any more.')
  await refuseUnsent([{ kind, key }, ...referencesOf(kind, body)])
  const made = publication.kind as Kind
  const number = made === kind ? 0 : (await newestNumber(made, kind, key)) + 1 + ahead
  const published = { ...(publication.of(body, { number, at }) as Body), ...as } as Body
  const madeKey = keyOf(made, published)
  const synced = await database.synced.get(syncedId(made, madeKey))
  return { kind: made, key: madeKey, base: synced?.revision ?? 0, body: published }
}

/** How many versions of the same are published before it in the same request. */
const aheadOf = (objects: readonly Publishing[], place: number): number =>
  objects.slice(0, place).filter(({ kind, key }) => kind === objects[place]!.kind && key === objects[place]!.key).length

async function newestNumber(kind: Kind, of: string, key: string): Promise<number> {
  const all: { number: number }[] = await database.table(kindOf(kind).table).where(of).equals(key).toArray()
  return Math.max(0, ...all.map(({ number }) => number))
}

/** What visitors will see has to be what the owner sees: nothing around it may still be undecided or refused. */
async function refuseUnsent(around: readonly Publishing[]): Promise<void> {
  const synced = await database.synced.bulkGet(around.map(({ kind, key }) => syncedId(kind, key)))
  if (synced.some((one) => one?.conflict !== undefined))
    throw new Error('it was changed in another browser as well: choose first which change goes on')
  const refused = synced.find((one) => one?.refusal !== undefined)?.refusal
  if (refused !== undefined) throw new Error(refused.message)
}
