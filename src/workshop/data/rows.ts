import type { Picture } from '#core/picture'
import { type Body, bodyOf, isImmutable, type Kind, kindOf, kinds, objectId } from '#core/sync'
import { newId } from '../clock'
import { database } from './database'

/*
 * What the owner makes, as rows of the browser's database: one table a kind, as the registry of core/sync says.
 */

/** Who wrote what neither another browser nor a document in hand did. */
export const HERE = 'here'
/** Who wrote what came from another browser. */
export const BY_SYNC = 'sync'

export const syncedId = objectId

export interface AnyTable {
  get(key: unknown): Promise<unknown>
  put(row: unknown, key?: unknown): Promise<unknown>
  delete(key: unknown): Promise<void>
  bulkDelete(keys: readonly unknown[]): Promise<void>
  toArray(): Promise<unknown[]>
  toCollection(): { primaryKeys(): Promise<unknown[]> }
  where(index: string): { equals(value: unknown): { toArray(): Promise<Record<string, unknown>[]> } }
}
export const tableOf = (kind: Kind) => database[kindOf(kind).table] as unknown as AnyTable

/** The tables of what the owner makes, by name. */
export const objectTableNames = kinds.map((kind) => kindOf(kind).table)

/** All tables that objects are in, and what is known of them, for transactions. */
export const objectTables = () => [
  ...objectTableNames.map((name) => database[name]),
  database.synced,
  database.drafts,
  database.settings,
]

export const primaryKeyOf = (kind: Kind, key: string): unknown => kindOf(kind).naming?.primaryKeyOf(key) ?? key

/** An object as it is here; null when it is not. */
export async function bodyHere(kind: Kind, key: string): Promise<Body | null> {
  const row = await tableOf(kind).get(primaryKeyOf(kind, key))
  return row === undefined ? null : bodyOf(kind, row)
}

/**
 * Puts a body in the place of what is here; null takes the object away, unless its kind is kept.
 *
 * @param by who wrote it, for kinds that are drafted
 * @param pictures bytes of those that may not be here yet, by id; without them a picture is left alone
 */
export async function writeHere({
  kind,
  key,
  body,
  by,
  pictures = new Map(),
}: {
  kind: Kind
  key: string
  body: Body | null
  by: string
  pictures?: ReadonlyMap<string, Picture>
}): Promise<void> {
  const { naming, stored, newest, drafted, isSpreadInFile } = kindOf(kind)
  if (body === null) {
    if (!isImmutable(kind) && isSpreadInFile === undefined) await tableOf(kind).delete(primaryKeyOf(kind, key))
  } else if (stored !== undefined) {
    const picture = pictures.get(key)
    if (picture !== undefined) await tableOf(kind).put(picture)
  } else {
    await tableOf(kind).put(body, naming?.keyPath === '' ? key : undefined)
    if (newest !== undefined) await forgetOlder(kind, body, newest)
  }
  if (drafted !== undefined) await database.drafts.put({ id: syncedId(kind, key), mark: newId(), by })
}

/** Of those with the same holder, the newest so many are kept. */
async function forgetOlder(kind: Kind, body: Body, { by, count }: { by: string; count: number }): Promise<void> {
  const holder = (body as unknown as Record<string, unknown>)[by]
  const alike = await tableOf(kind).where(by).equals(holder).toArray()
  alike.sort((one, other) => ((one.at as string) < (other.at as string) ? 1 : -1))
  await tableOf(kind).bulkDelete(alike.slice(count).map(({ id }) => id))
}
