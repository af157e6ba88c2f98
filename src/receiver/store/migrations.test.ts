import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { Kysely, Migrator, SqliteDialect } from 'kysely'
import { readWorkspace } from '#core/workspace'
import { readBody } from '#core/sync'
import { openLedger } from '../ledger'
import { openEmbeddedEngine } from '.'
import { LibsqlDatabase } from './libsql'
import { migrations } from './migrations'

test('a data folder from before the words were rich is brought up: its versions are those of a migrated file', async () => {
  const text = readFileSync(resolve(__dirname, '../../core/workspace/kept/version-1.json'), 'utf8')
  const old = JSON.parse(text) as {
    sites: { id: string }[]
    lists: { id: string }[]
    forms: { id: string; draft?: object }[]
    versions: { form: string; number: number }[]
    spots: { id: string }[]
    journal: { entries: { n: number }[] }
  }
  const folder = mkdtempSync(join(tmpdir(), 'ask-box-old-'))
  const database = new LibsqlDatabase(join(folder, 'askbox.sqlite'))
  const kysely = new Kysely({
    dialect: new SqliteDialect({ database: { close: () => {}, prepare: (sql) => database.prepare(sql) } }),
  })
  const first = { '001-first-tables': migrations['001-first-tables']! }
  await new Migrator({ db: kysely, provider: { getMigrations: async () => first } }).migrateToLatest()
  const keep = database.prepare('insert into published (kind, id, body) values (?, ?, ?)')
  for (const site of old.sites) keep.run('site', site.id, JSON.stringify(site))
  for (const list of old.lists) keep.run('list', list.id, JSON.stringify(list))
  for (const { draft: _, ...form } of old.forms) keep.run('form', form.id, JSON.stringify(form))
  for (const version of old.versions) keep.run('version', `${version.form}/${version.number}`, JSON.stringify(version))
  for (const spot of old.spots) keep.run('spot', spot.id, JSON.stringify(spot))
  const append = database.prepare('insert into journal (n, body) values (?, ?)')
  for (const { n, ...entry } of old.journal.entries) append.run(n, JSON.stringify(entry))
  database.close()

  const ledger = await openLedger(await openEmbeddedEngine(folder), Date.now)
  const reading = readWorkspace(text)
  if (!reading.ok) throw new Error(reading.problem.message)
  for (const version of reading.workspace.versions)
    expect(ledger.published().version(version.form, version.number)).toEqual(version)
  const objects = ledger.objectsAfter(0, '', 1000)!.items
  const of = (kind: string) => objects.filter((object) => object.kind === kind).map(({ body }) => body)
  expect([of('site'), of('list'), of('spot')]).toEqual([
    reading.workspace.sites,
    reading.workspace.lists,
    reading.workspace.spots,
  ])
  for (const body of of('form')) expect(readBody('form', body).ok).toBe(true)
  // Its history is marked as if it had been kept so from the beginning.
  const fresh = await openLedger(await openEmbeddedEngine(mkdtempSync(join(tmpdir(), 'ask-box-new-'))), Date.now)
  await fresh.seed({ ...reading.workspace, pictures: [] })
  const newest = old.journal.entries.length
  expect(ledger.entriesAfter(newest, fresh.entriesAfter(newest, null, 1)!.mark, 1)).not.toBeNull()
  await fresh.close()
  await ledger.close()
})
