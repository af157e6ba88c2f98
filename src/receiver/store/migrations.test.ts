import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { openLedger } from '../ledger'
import { openStore, subjects, tablesOf } from '../subjects'
import { signUp } from '../../../tests/store-suite'
import { workspace } from '../../../tests/tables/samples'

const NEXT = '999-next'
const { migrations } = tablesOf(subjects)[0]!
afterEach(() => delete migrations[NEXT])
const newFolder = () => mkdtempSync(join(tmpdir(), 'ask-box-steps-'))

test('a folder is brought up by the steps that it lacks, each once, and has what it had', async () => {
  const folder = newFolder()
  const before = await openLedger(await openStore(folder), Date.now)
  await before.seed(workspace)
  await before.signUp(signUp('ada@m.example'), 'a')
  const page = await before.entriesAfter(0, null, 10)
  await before.close()

  const up = jest.fn<Promise<void>, Parameters<(typeof migrations)[string]['up']>>(async (db) => {
    await db.schema.alterTable('members').addColumn('note', 'text').execute()
  })
  migrations[NEXT] = { up }
  for (let start = 0; start < 2; start++) {
    const after = await openLedger(await openStore(folder), Date.now)
    expect(await after.entriesAfter(0, null, 10)).toEqual(page)
    expect(await after.signUp(signUp('ada@m.example'), 'b')).toMatchObject({ verdict: 'already-on-list' })
    await after.close()
    if (start === 0) expect(page).toMatchObject({ latest: 1 })
    page!.latest += 1
    page!.items = [...page!.items, expect.anything() as never]
    page!.cursor = 2 + start
    page!.mark = expect.anything() as never
  }
  expect(up).toHaveBeenCalledTimes(1)
})

test('a step that breaks off leaves the folder as it was, an empty one empty', async () => {
  const folder = newFolder()
  migrations[NEXT] = {
    async up(db) {
      await db.schema.createTable('half').addColumn('kind', 'text').execute()
      throw new Error('the power is gone')
    },
  }
  await expect(openStore(folder)).rejects.toThrow('the power is gone')
  // Had anything stayed, this would find its table there.
  migrations[NEXT] = {
    async up(db) {
      await db.schema.createTable('half').addColumn('kind', 'text').execute()
    },
  }
  await (await openStore(folder)).close()
})

test('a folder with steps that this build does not know is refused in words, and stays as it was', async () => {
  const folder = newFolder()
  migrations[NEXT] = { up: async () => {} }
  await (await openStore(folder)).close()
  delete migrations[NEXT]
  await expect(openStore(folder)).rejects.toThrow('made by another build')
  migrations[NEXT] = { up: async () => {} }
  await (await openStore(folder)).close()
})
