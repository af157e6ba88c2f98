import 'fake-indexeddb/auto'
import { readFileSync } from 'node:fs'
import { resolve } from 'node:path'
import Dexie from 'dexie'
import type { FormId, JournalId } from '#core/ids'
import { readWorkspace, type Workspace } from '#core/workspace'
import demo from '../../../demo/cloudberry-hill.json'
import { database, emptyDatabase, readSetting, takeEntries, waitingChanges, writeSetting } from '.'

afterEach(() => database.delete({ disableAutoOpen: false }))

test('what was measured before selectors were named so is still known', async () => {
  const before = new Dexie('ask-box')
  before.version(3).stores({ measures: 'form' })
  const look = { picture: { place: 'behind' } }
  await before.table('measures').add({
    form: 'someform',
    measures: { overflows: [{ place: '.askbox-button', width: 280, words: 'x' }], drawn: { look } },
  })
  before.close()
  expect(await database.measures.get('someform' as FormId)).toMatchObject({
    measures: { overflows: [{ selector: '.askbox-button', width: 280 }], drawn: { look } },
  })
})

test('a journal that was kept entry by entry is here whole', async () => {
  const { entries } = (demo as unknown as Workspace).journal
  const before = new Dexie('ask-box')
  before.version(4).stores({
    entries: 'n, [spot+verdict+n], member',
    members: 'id, [list+status+joinedAt], revision',
    settings: 'key',
  })
  await before.table('entries').bulkAdd(entries)
  await before.table('settings').add({ key: 'journal', value: { id: 'somejournal', cursor: entries.length, mark: 'x' } })
  before.close()
  const state = async () => [
    await database.journal.toArray(),
    await database.lastArrivals.toArray(),
  ]
  const upgraded = await state()
  expect(await readSetting('journal')).toEqual({ id: 'somejournal', cursor: entries.length, mark: 'x' })
  await emptyDatabase()
  await writeSetting('journal', { id: 'somejournal' as JournalId, cursor: 0, mark: '' })
  await takeEntries('somejournal' as JournalId, entries)
  expect(upgraded).toEqual(await state())
})

test('a browser that kept forms of version 1 opens with all of them, as a migrated file has them', async () => {
  const text = readFileSync(resolve(__dirname, '../../core/workspace/kept/version-1.json'), 'utf8')
  const old = JSON.parse(text) as {
    sites: object[]
    forms: object[]
    versions: object[]
    lists: object[]
    spots: object[]
  }
  const before = new Dexie('ask-box')
  before
    .version(1)
    .stores({
      sites: 'id',
      lists: 'id',
      forms: 'id, list',
      versions: '[form+number], form',
      spots: 'id, form, site',
      entries: 'n, [form+n], member',
      members: 'id, [list+joinedAt]',
      commands: 'id',
      settings: 'key',
    })
  for (const table of ['sites', 'forms', 'versions', 'lists', 'spots'] as const)
    await before.table(table).bulkAdd(old[table])
  before.close()

  const reading = readWorkspace(text)
  if (!reading.ok) throw new Error(reading.problem.message)
  const byId = (all: { id: string }[]) => [...all].sort((one, other) => one.id.localeCompare(other.id))
  expect(byId(await database.forms.toArray())).toEqual(byId(reading.workspace.forms))
  expect(byId(await database.sites.toArray())).toEqual(byId(reading.workspace.sites))
  expect((await database.versions.toArray()).map(({ content }) => content.words)).toEqual(
    expect.arrayContaining(reading.workspace.versions.map(({ content }) => content.words)),
  )
  expect(await database.themes.toArray()).toEqual([])
  // The receiver of that time knew only what was published: what is here is the newer, and is sent.
  expect(await readSetting('isFirstSync')).toBe(true)
  expect((await waitingChanges()).map(({ kind }) => kind)).toEqual(
    expect.arrayContaining(['site', 'list', 'form', 'version', 'spot']),
  )
})
