import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DataFolderInUse } from '.'
import { touch } from '../people'
import { openStore } from '../subjects'
import { boundValue } from './bound-value'
import { LibsqlDatabase } from './libsql'
import { batchSuite } from '../../../tests/batch-suite'
import { signUp, storeSuite } from '../../../tests/store-suite'
import { workspace } from '../../../tests/tables/samples'
import { type Ledger, openLedger } from '../ledger'

const newPlace = () => mkdtempSync(join(tmpdir(), 'ask-box-store-'))

storeSuite('embedded SQLite', { open: openStore, newPlace })
batchSuite('embedded SQLite', { open: openStore, newPlace })

test('a data folder is open once: the second receiver gets a clear error', async () => {
  const folder = newPlace()
  const engine = await openStore(folder)
  await expect(openStore(folder)).rejects.toThrow(DataFolderInUse)
  await engine.close()
  await (await openStore(folder)).close()
})

/** Begins to write to a store. */
const writing = `
  const Database = require('libsql')
  new Database(process.argv[1]).exec('BEGIN IMMEDIATE')
`

test('looking for texts in the files finds them and leaves the lock on the folder', async () => {
  const folder = newPlace()
  const engine = await openStore(folder)
  await engine.run((transaction) => transaction.keepValue('a name', 'Some Text', null))
  expect(await engine.occurrences(['some text'])).toBe(1)
  expect(await engine.occurrences(['another'])).toBe(0)
  // Asked by another process: within one, SQLite knows of its own locks whatever became of them.
  const { status, stderr } = spawnSync(process.execPath, ['-e', writing, join(folder, 'askbox.sqlite')], {
    encoding: 'utf8',
  })
  expect([status, stderr]).toEqual([1, expect.stringContaining('locked') as string])
  await engine.close()
})

test('the files of the store are readable by their owner only', async () => {
  const folder = newPlace()
  const engine = await openStore(folder)
  await engine.run((transaction) => touch(transaction, 1))
  for (const file of readdirSync(folder)) expect(statSync(join(folder, file)).mode & 0o077).toBe(0)
  await engine.close()
})

describe('a copy', () => {
  const signUps = async (ledger: Ledger, from: number, many: number) => {
    for (let at = from; at < from + many; at += 20)
      await Promise.all(
        Array.from({ length: 20 }, (_, of) => ledger.signUp(signUp(`a${at + of}@m.example`), `${at + of}`)),
      )
  }
  test('is whole and of one moment though sign-ups go on, and they are neither held up nor lost by it', async () => {
    const folder = newPlace()
    const ledger = await openLedger(await openStore(folder), Date.now)
    await ledger.seed(workspace)
    await signUps(ledger, 0, 2_000)
    const file = join(folder, 'copy-one.sqlite')
    const at = { before: await ledger.latest(), after: 0 }
    // Whatever is committed while pieces are read: many commits, each with a turn of the event loop between.
    await Promise.all([
      ledger.copyTo(file).then(async () => (at.after = await ledger.latest())),
      signUps(ledger, 2_000, 1_000),
    ])
    expect(at.after).toBeGreaterThan(at.before)
    const copy = new LibsqlDatabase(file)
    const [{ n, many } = {}] = copy.prepare('SELECT max(n) AS n, count(*) AS many FROM journal').all()
    expect(copy.prepare('PRAGMA integrity_check').all()).toEqual([{ integrity_check: 'ok' }])
    copy.close()
    expect(n).toBe(many)
    expect(Number(n)).toBeGreaterThanOrEqual(at.before)
    expect(readdirSync(folder).filter((name) => name.startsWith('copy-'))).toEqual(['copy-one.sqlite'])
    expect(statSync(file).mode & 0o077).toBe(0)
    // The folder is still locked, though the file was read beside the store.
    await expect(openStore(folder)).rejects.toThrow(DataFolderInUse)
    await ledger.close()
    const again = await openLedger(await openStore(folder), Date.now)
    expect(await again.latest()).toBe(3_000)
    expect(existsSync(file)).toBe(false)
    await again.close()
  })
  test('that cannot be written leaves nothing', async () => {
    const folder = newPlace()
    const engine = await openStore(folder)
    await expect(engine.copyTo(join(folder, 'nowhere', 'copy-two.sqlite'))).rejects.toThrow('ENOENT')
    await engine.copyTo(join(folder, 'copy-two.sqlite'))
    await engine.close()
  })
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
