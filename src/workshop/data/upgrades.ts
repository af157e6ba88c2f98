import type { Dexie, Transaction } from 'dexie'

/*
 * What the browser's database was in each version, and how one becomes the next. Frozen: nothing here is changed once a
 * version was in use, and nothing calls code that lives on. A change makes a new version below.
 */

const tables10 = {
  preferences: '',
  sites: 'id',
  lists: 'id',
  mails: 'list',
  themes: 'id',
  pictures: 'id',
  forms: 'id, list',
  versions: '[form+number], form',
  spots: 'id, form, site',
  proofs: 'id, spot',
  giftPieces: '[file+at], file',
  drafts: 'id',
  journal: 'block',
  lastArrivals: '[spot+verdict]',
  commands: 'id, order',
  synced: 'id, isConflict',
  measures: 'form',
  settings: 'key',
}
const tables12 = { ...tables10, connections: 'id', handOvers: 'id' }
const tables13 = { ...tables12, trials: 'id, form' }
const tables14 = { ...tables13, letters: 'id', series: 'id', feeds: 'id' }
const tables15 = { ...tables14, messages: 'n, id, form, held, from' }

/** All tables of the newest version, with their keys and indexes. */
export const newestTables: Readonly<Record<string, string>> = tables15

export function declareVersions(database: Dexie): void {
  database.version(10).stores(tables10).upgrade(preferencesOutOfSettings)
  database.version(11).upgrade(personalPartsApart)
  database.version(12).stores(tables12)
  database.version(13).stores(tables13)
  database.version(14).stores(tables14)
  database.version(15).stores(tables15)
  database.version(16).upgrade(linkKeyOutOfPreferences)
}

/** Version 9 kept the preferences among the settings. */
async function preferencesOutOfSettings(transaction: Transaction): Promise<void> {
  const settings = transaction.table<{ key: string; value: unknown }>('settings')
  const rows = await settings.bulkGet(['videoHosts', 'rehearseEvery', 'linkKey'])
  const kept = rows.filter((row) => row !== undefined && row.value !== 'never')
  if (kept.length > 0)
    await transaction
      .table('preferences')
      .put({ videoHosts: [], ...Object.fromEntries(kept.map((row) => [row!.key, row!.value])) }, 'workshop')
  await settings.bulkDelete(['videoHosts', 'rehearseEvery', 'linkKey'])
}

/** Version 15 kept the key that links are marked with, which the receiver keeps for itself since. */
async function linkKeyOutOfPreferences(transaction: Transaction): Promise<void> {
  const withoutKey = (row: { linkKey?: string }) => void delete row.linkKey
  await transaction.table('preferences').toCollection().modify(withoutKey)
  await transaction
    .table('synced')
    .filter(({ kind, body }: { kind: string; body: unknown }) => kind === 'preferences' && body !== null)
    .modify(({ body }: { body: { linkKey?: string } }) => withoutKey(body))
}

const personalNames: Record<string, string[]> = {
  arrival: ['email', 'values', 'tags', 'consents', 'cameFrom', 'region', 'page'],
  'member-added': ['email', 'values'],
  'member-edited': ['email', 'values'],
  'member-bounced': ['reason'],
}

/** Version 10 kept what an entry tells of a person among the rest of it. */
async function personalPartsApart(transaction: Transaction): Promise<void> {
  type Json = Record<string, unknown>
  const apart = (entry: Json): Json => {
    const names = personalNames[String(entry.kind)]
    if (names === undefined || 'personal' in entry) return entry
    const pairs = Object.entries(entry)
    return {
      ...Object.fromEntries(pairs.filter(([name]) => !names.includes(name))),
      personal: Object.fromEntries(pairs.filter(([name]) => names.includes(name))),
    }
  }
  await transaction
    .table('journal')
    .toCollection()
    .modify((block: { entries: Json[] }) => (block.entries = block.entries.map(apart)))
  await transaction
    .table('lastArrivals')
    .toCollection()
    .modify((row: { arrival: Json }) => (row.arrival = apart(row.arrival)))
}
