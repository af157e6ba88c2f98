import 'fake-indexeddb/auto'
import Dexie from 'dexie'
import type { Arrival, Entry } from '#core/journal'
import type { Workspace } from '#core/workspace'
import demo from '../../../demo/cloudberry-hill.json'
import { kindOf, kinds } from '#core/sync'
import { database, syncedId, waitingChanges } from '.'
import { newestTables } from './upgrades'

afterEach(() => database.delete({ disableAutoOpen: false }))

test('a browser that kept what entries tell of a person among the rest of them has it apart', async () => {
  const { entries } = (demo as unknown as Workspace).journal
  const flat = entries.map(({ personal, ...entry }: Entry & { personal?: object | null }) => ({
    ...entry,
    ...personal,
  }))
  const before = new Dexie('ask-box')
  before.version(10).stores({ journal: 'block', lastArrivals: '[spot+verdict]' })
  await before.table('journal').add({ block: 0, entries: flat.slice(0, 200) })
  const { spot, verdict } = entries[0] as Arrival
  await before.table('lastArrivals').add({ spot, verdict, arrival: flat[0] })
  before.close()

  expect(await database.journal.toArray()).toEqual([{ block: 0, entries: entries.slice(0, 200) }])
  expect(await database.lastArrivals.toArray()).toEqual([{ spot, verdict, arrival: entries[0] }])
})

test('a browser that kept preferences among its settings has them in a table of their own without the key of links, and nothing waits anew', async () => {
  const { forms, lists, themes } = demo as unknown as Workspace
  const before = new Dexie('ask-box')
  before.version(9).stores({
    forms: 'id, list',
    lists: 'id',
    themes: 'id',
    edits: 'form',
    settings: 'key',
    synced: 'id, isConflict',
  })
  await before.table('forms').bulkAdd(forms)
  await before.table('lists').bulkAdd(lists)
  await before.table('themes').bulkAdd(themes)
  await before.table('edits').add({ form: forms[0]!.id, mark: 'm', by: 'sync' })
  const preferences = { videoHosts: ['video.example'], linkKey: 'k'.repeat(43) }
  await before
    .table('settings')
    .bulkAdd([
      ...Object.entries(preferences).map(([key, value]) => ({ key, value })),
      { key: 'rehearseEvery', value: 'never' },
      { key: 'scheme', value: 'dark' },
    ])
  const known = [
    ...forms.map((body) => ({ kind: 'form' as const, key: body.id as string, body: body as object })),
    ...lists.map((body) => ({ kind: 'list' as const, key: body.id as string, body: body as object })),
    ...themes.map((body) => ({ kind: 'theme' as const, key: body.id as string, body: body as object })),
    { kind: 'preferences' as const, key: 'workshop', body: preferences },
  ]
  await before
    .table('synced')
    .bulkAdd(known.map(({ kind, key, body }) => ({ id: syncedId(kind, key), kind, key, revision: 1, body })))
  before.close()

  expect(await database.preferences.toArray()).toEqual([{ videoHosts: preferences.videoHosts }])
  expect(await database.settings.toArray()).toEqual([{ key: 'scheme', value: 'dark' }])
  expect(await database.forms.count()).toBe(forms.length)
  expect(await waitingChanges()).toEqual([])
})

test('each kind of the registry has its table in the newest version: a new kind, key or index is a new version', () => {
  for (const kind of kinds) {
    const { table, naming, identity = 'id', indexes = [] } = kindOf(kind)
    expect([table, newestTables[table]]).toEqual([table, [naming?.keyPath ?? identity, ...indexes].join(', ')])
  }
})
