import { mkdtempSync, readdirSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DataFolderInUse, openEmbeddedEngine } from '.'
import { boundValue, LibsqlDatabase } from './libsql'
import { migrations } from './migrations'
import { storeSuite } from '../../../tests/store-suite'

const newPlace = () => mkdtempSync(join(tmpdir(), 'ask-box-store-'))

storeSuite('embedded SQLite', { open: openEmbeddedEngine, newPlace })

test('a data folder is open once: the second receiver gets a clear error', async () => {
  const folder = newPlace()
  const engine = await openEmbeddedEngine(folder)
  await expect(openEmbeddedEngine(folder)).rejects.toThrow(DataFolderInUse)
  await engine.close()
  await (await openEmbeddedEngine(folder)).close()
})

test('the files of the store are readable by their owner only', async () => {
  const folder = newPlace()
  const engine = await openEmbeddedEngine(folder)
  await engine.run((transaction) => transaction.touch(1))
  for (const file of readdirSync(folder)) expect(statSync(join(folder, file)).mode & 0o077).toBe(0)
  await engine.close()
})

test('a first start that broke off between its tables leaves nothing behind, and one of an older build is taken up', async () => {
  const folder = newPlace()
  // Older builds committed each table by itself; this is what a kill after the second left.
  const database = new LibsqlDatabase(join(folder, 'askbox.sqlite'))
  database.exec(
    'create table identity (key text primary key, value text not null); create table journal (n integer primary key, body text not null)',
  )
  database.close()
  await (await openEmbeddedEngine(folder)).close()

  const broken = newPlace()
  const third = migrations['003-objects-with-revisions']!
  const up = jest.spyOn(third, 'up').mockImplementationOnce(async (db) => {
    await db.schema.createTable('objects').addColumn('kind', 'text').execute()
    throw new Error('the power is gone')
  })
  await expect(openEmbeddedEngine(broken)).rejects.toThrow('the power is gone')
  up.mockRestore()
  const after = new LibsqlDatabase(join(broken, 'askbox.sqlite'))
  expect(
    after.prepare("select name from sqlite_master where type = 'table' and name in ('identity', 'objects')").all(),
  ).toEqual([])
  after.close()
  await (await openEmbeddedEngine(broken)).close()
})

describe('what reaches libsql is stored exactly, or refused', () => {
  test.each([true, false, 0, -1, 1.5, Number.MAX_SAFE_INTEGER, 'text', '', 'Ω 👩‍🚀', null, undefined, 5n])(
    '%p',
    (value) => {
      const database = new LibsqlDatabase(':memory:')
      const kept =
        typeof value === 'boolean' ? Number(value) : typeof value === 'bigint' ? Number(value) : (value ?? null)
      expect(database.prepare('select ? as kept').get(value)?.kept).toEqual(kept)
      database.close()
    },
  )
  test.each([2 ** 53, Number.NaN, Number.POSITIVE_INFINITY, 'a\0b', 'a\ud800', {}, [1], Symbol('x'), 2n ** 60n])(
    'refuses %p',
    (value) => {
      expect(() => boundValue(value)).toThrow(TypeError)
    },
  )
})
