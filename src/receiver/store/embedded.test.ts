import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { DataFolderInUse, openEmbeddedStore } from '.'
import { boundValue, LibsqlDatabase } from './libsql'
import { storeSuite } from '../../../tests/store-suite'

const newPlace = () => mkdtempSync(join(tmpdir(), 'ask-box-store-'))

storeSuite('embedded SQLite', { open: openEmbeddedStore, newPlace })

test('a data folder is open once: the second receiver gets a clear error', async () => {
  const folder = newPlace()
  const store = await openEmbeddedStore(folder, Date.now)
  await expect(openEmbeddedStore(folder, Date.now)).rejects.toThrow(DataFolderInUse)
  await store.close()
  await (await openEmbeddedStore(folder, Date.now)).close()
})

describe('what reaches libsql is stored exactly, or refused', () => {
  test.each([true, false, 0, -1, 1.5, Number.MAX_SAFE_INTEGER, 'text', '', 'Ω 👩‍🚀', null, undefined, 5n])('%p', (value) => {
    const database = new LibsqlDatabase(':memory:')
    const kept = typeof value === 'boolean' ? Number(value) : typeof value === 'bigint' ? Number(value) : (value ?? null)
    expect(database.prepare('select ? as kept').get(value)?.kept).toEqual(kept)
    database.close()
  })
  test.each([2 ** 53, Number.NaN, Number.POSITIVE_INFINITY, 'a\0b', 'a\ud800', {}, [1], Symbol('x'), 2n ** 60n])('refuses %p', (value) => {
    expect(() => boundValue(value)).toThrow(TypeError)
  })
})
