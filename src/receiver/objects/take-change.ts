import { type Body, type Change, decideChange, type Kept, type Kind, kindOf, referencesOf, objectId } from '#core/sync'
import { newId } from '../random'
import type { StoredObject } from './tables'
import type { Transaction } from '../subjects'
import type { ChangeOutcome } from '#core/api'

/**
 * Takes in a change to what the owner makes.
 *
 * @param taken called with the object as it now is, where that is news
 * @param who whose key it came with, and when
 */
export async function takeChange(
  transaction: Transaction,
  change: Change,
  taken: (object: StoredObject) => void,
  who: { by?: string | undefined; now?: number } = {},
): Promise<ChangeOutcome> {
  const { kind, key } = change
  // One after the other: a transaction is one connection, which answers one question at a time.
  const stored = await transaction.object(kind, key)
  const there = await referencesThere(transaction, change)
  const bytes = kindOf(kind).stored === undefined ? null : await transaction.picture(key)
  const decision = decideChange(change, stored === null ? null : keptOf(stored), (ofKind, ofKey) =>
    there.has(objectId(ofKind, ofKey)),
  )
  if (!decision.ok) {
    return 'problem' in decision
      ? { kind, key, ok: false, problem: decision.problem }
      : { kind, key, ok: false, conflict: { revision: decision.conflict.revision, body: decision.conflict.body } }
  }
  if (!decision.isNews) return { kind, key, ok: true, revision: stored?.revision ?? 0 }
  if (kindOf(kind).stored !== undefined && bytes === null) {
    return {
      kind,
      key,
      ok: false,
      problem: { code: 'broken-reference', message: 'The picture’s bytes have not been sent.' },
    }
  }
  const revision = (await transaction.newestChange()).n + 1
  const object: StoredObject = {
    kind,
    key,
    revision,
    body: decision.body ?? (stored!.body as Body),
    isDeleted: decision.body === null,
    by: who.by ?? null,
    changedAt: who.now ?? null,
  }
  await transaction.keepObject(object)
  // Any text that is never the same twice: it only tells one history of changes from another.
  await transaction.keepChange(revision, newId<string>())
  await forgetOlder(transaction, kind, object.body)
  taken(object)
  return { kind, key, ok: true, revision }
}

/** Existing objects that a change refers to, by kind and key. */
async function referencesThere(transaction: Transaction, { kind, body }: Change): Promise<ReadonlySet<string>> {
  const reading = body === null ? null : kindOf(kind).schema.safeParse(body)
  const references = reading?.success ? referencesOf(kind, reading.data) : []
  const there = new Set<string>()
  for (const one of references) {
    const object = await transaction.object(one.kind, one.key)
    if (object !== null && !object.isDeleted) there.add(objectId(one.kind, one.key))
  }
  return there
}

/** Of kinds of which only the newest are kept, those of the same holder that are older. */
async function forgetOlder(transaction: Transaction, kind: Kind, body: Body): Promise<void> {
  const { newest } = kindOf(kind)
  if (newest === undefined) return
  const holder = (one: Body) => (one as unknown as Record<string, unknown>)[newest.by]
  const alike = (await transaction.objectsOf(kind)).filter((object) => holder(object.body) === holder(body))
  for (const { key } of alike.slice(0, -newest.count)) await transaction.removeObject(kind, key)
}

export function keptOf({ kind, key, revision, body, isDeleted, by, changedAt }: StoredObject): Kept {
  return {
    ...{ kind, key, revision, body: isDeleted ? null : body },
    ...(by !== null && { by }),
    ...(changedAt !== null && { changedAt }),
  } as Kept
}
