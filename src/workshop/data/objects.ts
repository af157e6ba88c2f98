import { sameValue, type Version } from '#core/form'
import type { FormId, JournalId } from '#core/ids'
import { factsOf, type Picture } from '#core/picture'
import type { Proof } from '#core/proof'
import { type Bodies, type Body, isImmutable, type Kept, type Kind, keyOf, kinds, reconcile } from '#core/sync'
import { newId } from '../clock'
import { database, readSetting, type Synced, writeSetting } from './database'
import { BY_SYNC } from './drafts'
import { requireJournal } from './journal'
import { keepProof } from './proofs'

/** A change made here that the receiver does not know of. */
export interface WaitingChange {
  kind: Kind
  key: string
  base: number
  body: Body | null
}

export function syncedId(kind: Kind, key: string): string {
  return `${kind} ${key}`
}

const tableOf = {
  site: () => database.sites,
  list: () => database.lists,
  mail: () => database.mails,
  theme: () => database.themes,
  form: () => database.forms,
  spot: () => database.spots,
} as const
type Changeable = keyof typeof tableOf
const changeable = Object.keys(tableOf) as Changeable[]
type AnyTable = {
  get(key: string): Promise<Body | undefined>
  put(body: Body): Promise<unknown>
  delete(key: string): Promise<void>
  toArray(): Promise<Body[]>
}
const tableFor = (kind: Changeable) => tableOf[kind]() as unknown as AnyTable

/** Names of the tables that a change of the owner's touches. */
export const changingTables = [
  ...['sites', 'lists', 'mails', 'themes', 'pictures', 'forms', 'spots', 'versions', 'proofs'],
  ...['settings', 'synced'],
]

/** All tables that objects are in, for transactions. */
export const objectTables = () => [
  database.sites,
  database.lists,
  database.mails,
  database.themes,
  database.pictures,
  database.forms,
  database.versions,
  database.spots,
  database.proofs,
  database.synced,
  database.edits,
  database.settings,
]

/** An object as it is here; null when it is not. */
export async function bodyHere(kind: Kind, key: string): Promise<Body | null> {
  switch (kind) {
    case 'preferences': {
      const [videoHosts, rehearseEvery, linkKey] = [
        await readSetting('videoHosts'),
        await readSetting('rehearseEvery'),
        await readSetting('linkKey'),
      ]
      if (videoHosts === undefined && rehearseEvery === undefined && linkKey === undefined) return null
      return {
        videoHosts: videoHosts ?? [],
        ...(rehearseEvery !== undefined && rehearseEvery !== 'never' && { rehearseEvery }),
        ...(linkKey !== undefined && { linkKey }),
      }
    }
    case 'version':
      return (await database.versions.get(versionKey(key))) ?? null
    case 'proof':
      return (await database.proofs.get(key as Proof['id'])) ?? null
    case 'picture': {
      const picture = await database.pictures.get(key as Picture['id'])
      return picture === undefined ? null : factsOf(picture)
    }
    default:
      return (await tableFor(kind).get(key)) ?? null
  }
}

async function writeHere(
  kind: Kind,
  key: string,
  body: Body | null,
  pictures: ReadonlyMap<string, Picture>,
): Promise<void> {
  switch (kind) {
    case 'preferences':
      if (body !== null) {
        const { videoHosts, rehearseEvery = 'never', linkKey } = body as Bodies['preferences']
        await writeSetting('videoHosts', videoHosts)
        await writeSetting('rehearseEvery', rehearseEvery)
        if (linkKey !== undefined) await writeSetting('linkKey', linkKey)
      }
      break
    case 'version':
      if (body !== null) await database.versions.put(body as Version)
      break
    case 'proof':
      if (body !== null) await keepProof(body as Proof)
      break
    case 'picture': {
      const picture = pictures.get(key)
      if (picture !== undefined) await database.pictures.put(picture)
      break
    }
    default:
      if (body === null) await tableFor(kind).delete(key)
      else await tableFor(kind).put(body)
      if (kind === 'form') await database.edits.put({ form: key as FormId, mark: newId(), by: BY_SYNC })
  }
}

function versionKey(key: string): [FormId, number] {
  const [form = '', number = ''] = key.split('/')
  return [form as FormId, Number(number)]
}

/**
 * Takes in what the receiver has after the cursor, and moves the cursor, in one step. What nobody touched here becomes
 * what it is there; what was changed on both sides in different parts becomes both; what contradicts waits for its owner.
 *
 * @param journal the history that the receiver keeps
 * @param pictures bytes of those that are not here yet, by id
 * @throws OtherJournal
 */
export async function takeObjects(
  journal: JournalId,
  objects: readonly Kept[],
  cursor: { cursor: number; mark: string },
  pictures: ReadonlyMap<string, Picture>,
): Promise<void> {
  await database.transaction('rw', objectTables(), async () => {
    await requireJournal(journal)
    const hereWins = (await readSetting('isFirstSync')) === true
    for (const object of objects) await takeObject(object, pictures, hereWins)
    await writeSetting('objects', cursor)
  })
}

/** The same for one object. Only within a transaction over all tables of objects. */
export async function takeObject(
  { kind, key, revision, body: there }: Kept,
  pictures: ReadonlyMap<string, Picture> = new Map(),
  hereWins = false,
): Promise<void> {
  const id = syncedId(kind, key)
  const known = await database.synced.get(id)
  if (isImmutable(kind)) {
    if ((await bodyHere(kind, key)) === null) await writeHere(kind, key, there, pictures)
    await database.synced.put({ id, kind, key, revision, body: null })
    return
  }
  const here = await bodyHere(kind, key)
  const result =
    hereWins && known === undefined && here !== null
      ? ({ take: 'here' } as const)
      : reconcile(kind, known?.body ?? null, here as never, there as never)
  if (result.take === 'neither') {
    await database.synced.put({
      ...(known ?? { id, kind, key, revision: 0, body: null }),
      conflict: { revision, body: there },
      isConflict: 1,
    })
    return
  }
  if (result.take === 'there') await writeHere(kind, key, there, pictures)
  if (result.take === 'merged') await writeHere(kind, key, result.body, pictures)
  await database.synced.put({ id, kind, key, revision, body: there })
}

/** Everything that was changed here and that the receiver does not know of, in the order of what refers to what. */
export async function waitingChanges(): Promise<WaitingChange[]> {
  return database.transaction('r', objectTables(), async () => {
    const synced = new Map((await database.synced.toArray()).map((one) => [one.id, one]))
    const waiting: WaitingChange[] = []
    const consider = (kind: Kind, key: string, body: Body | null) => {
      const known = synced.get(syncedId(kind, key))
      if (isWaiting(known, body)) waiting.push({ kind, key, base: known?.revision ?? 0, body })
    }
    consider('preferences', keyOf('preferences', { videoHosts: [] }), await bodyHere('preferences', ''))
    for (const kind of changeable) {
      const here = await tableFor(kind).toArray()
      const keys = new Set<string>()
      for (const body of here) {
        const key = keyOf(kind, body)
        keys.add(key)
        consider(kind, key, body)
      }
      for (const known of synced.values())
        if (known.kind === kind && !keys.has(known.key)) consider(kind, known.key, null)
    }
    for (const id of await database.pictures.toCollection().primaryKeys()) {
      if (!synced.has(syncedId('picture', id))) consider('picture', id, await bodyHere('picture', id))
    }
    for (const id of await database.proofs.toCollection().primaryKeys())
      if (!synced.has(syncedId('proof', id))) consider('proof', id, await bodyHere('proof', id))
    const forms = new Set<string>(await database.forms.toCollection().primaryKeys())
    for (const [form, number] of (await database.versions.toCollection().primaryKeys()) as unknown as [
      FormId,
      number,
    ][]) {
      // Versions outlive their form here, because receipts name them; a receiver that never had the form cannot take them.
      if (!forms.has(form)) continue
      const key = keyOf('version', { form, number } as Version)
      if (!synced.has(syncedId('version', key))) consider('version', key, await bodyHere('version', key))
    }
    return waiting.sort((one, other) => kinds.indexOf(one.kind) - kinds.indexOf(other.kind))
  })
}

/**
 * The same, to be sent to the receiver that keeps a history.
 *
 * @throws OtherJournal
 */
export function changesFor(journal: JournalId): Promise<WaitingChange[]> {
  return database.transaction('r', objectTables(), async () => {
    await requireJournal(journal)
    return waitingChanges()
  })
}

function isWaiting(known: Synced | undefined, here: Body | null): boolean {
  if (known === undefined) return here !== null
  if (known.conflict !== undefined) return false
  if (known.refusal !== undefined && sameValue(known.refusal.body, here)) return false
  return !sameValue(known.body, here)
}

/** Of two contradicting changes, the one made here goes on. */
export async function chooseHere(id: string): Promise<void> {
  await database.transaction('rw', objectTables(), async () => {
    const known = await database.synced.get(id)
    if (known?.conflict === undefined) return
    await database.synced.put({ id, kind: known.kind, key: known.key, ...known.conflict })
  })
}

/** Of two contradicting changes, the other browser's takes the place of the one made here. Resolves with what brings that back. */
export async function chooseThere(id: string): Promise<() => Promise<void>> {
  return database.transaction('rw', objectTables(), async () => {
    const known = await database.synced.get(id)
    if (known?.conflict === undefined) return async () => {}
    const { kind, key, conflict } = known
    const before = await bodyHere(kind, key)
    await writeHere(kind, key, conflict.body, new Map())
    await database.synced.put({ id, kind, key, ...conflict })
    return () => database.transaction('rw', objectTables(), () => writeHere(kind, key, before, new Map()))
  })
}
