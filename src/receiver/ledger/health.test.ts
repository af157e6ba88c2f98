import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { signUp } from '../../../tests/store-suite'
import type { BatchId } from '#core/ids'
import { list, workspace } from '../../../tests/tables/samples'
import { openStore } from '../subjects'
import { type Ledger, openLedger } from '.'

const MINUTE_MS = 60_000
let folder: string
let ledger: Ledger
let time: number
let damage: (sql: string) => Promise<unknown>
beforeEach(async () => {
  folder = mkdtempSync(join(tmpdir(), 'health-'))
  time = Date.parse('2026-12-02T10:00:00Z')
  const engine = await openStore(folder)
  damage = (sql) => engine.raw().write((ask) => ask(sql))
  ledger = await openLedger(engine, () => time)
  await ledger.seed(workspace)
})
afterEach(async () => {
  await ledger.close()
  rmSync(folder, { recursive: true, force: true })
})
const isWell = () =>
  ledger.checkHealth().then(
    () => true,
    () => false,
  )
const state = async () => {
  const { items, latest } = (await ledger.entriesAfter(0, null, 1_000))!
  return { entries: items.length, latest, waiting: (await ledger.queue.counts('mail')).open }
}
const everythingThatBreaksSignUps: [string, string][] = [
  [
    'people’s rows take nothing',
    `CREATE TRIGGER broken BEFORE INSERT ON members BEGIN SELECT RAISE(FAIL, 'damaged'); END`,
  ],
  [
    'the journal takes nothing',
    `CREATE TRIGGER broken BEFORE INSERT ON journal BEGIN SELECT RAISE(FAIL, 'damaged'); END`,
  ],
  ['the journal is not there', 'ALTER TABLE journal RENAME TO elsewhere'],
  [
    'answers are not kept',
    `CREATE TRIGGER broken BEFORE INSERT ON first_answers BEGIN SELECT RAISE(FAIL, 'damaged'); END`,
  ],
]

test('asked again and again while nobody signs up, it is well, and nothing of its trial is left', async () => {
  const before = await state()
  for (let times = 0; times < 5; times++) {
    expect(await isWell()).toBe(true)
    time += 2 * MINUTE_MS
  }
  expect(await state()).toEqual(before)
  expect(await ledger.signUp(signUp('wren@m.example'), 'a')).toMatchObject({ verdict: expect.any(String) })
})

test.each(everythingThatBreaksSignUps)('%s: not well, with and without a sign-up that tells it', async (_, sql) => {
  expect(await isWell()).toBe(true)
  await damage(sql)
  time += 2 * MINUTE_MS
  expect(await isWell()).toBe(false)
  await expect(ledger.signUp(signUp('wren@m.example'), 'a')).rejects.toThrow()
  expect(await isWell()).toBe(false)
})

test('the last sign-up tells for a minute; then it is tried anew', async () => {
  await ledger.signUp(signUp('wren@m.example'), 'a')
  await damage(everythingThatBreaksSignUps[0]![1])
  time += MINUTE_MS / 2
  expect(await isWell()).toBe(true)
  await expect(ledger.signUp(signUp('robin@m.example'), 'b')).rejects.toThrow()
  expect(await isWell()).toBe(false)
  await damage('DROP TRIGGER broken')
  time += 2 * MINUTE_MS
  expect(await isWell()).toBe(true)
})

describe('a row of somebody that is not as it was written', () => {
  const addressed = (email: string) => ledger.signUp(signUp(email), email)
  beforeEach(async () => {
    for (const email of ['wren@m.example', 'ada@m.example']) await addressed(email)
    await damage(`UPDATE members SET body = replace(body, 'wren@', 'wrxn@') WHERE compared = 'wren@m.example'`)
    time += 2 * MINUTE_MS
  })

  test('is read by nobody, and keeps nobody else from signing up', async () => {
    await expect(addressed('wren@m.example')).rejects.toThrow(/not as it was written/)
    expect(await addressed('jay@m.example')).toMatchObject({ verdict: expect.any(String) })
    expect(await isWell()).toBe(true)
  })

  test('is found within a round of looking, and written anew from the journal', async () => {
    const { damaged, last } = await ledger.memberCheck.checkMembers('', 10)
    expect([damaged.length, last]).toEqual([1, null])
    const before = await ledger.memberCheck.checkMembers(damaged[0]!, 10)
    expect(before.damaged).toEqual([])
    expect(await ledger.memberCheck.mendMembers(damaged)).toBe(1)
    expect((await ledger.memberCheck.checkMembers('', 10)).damaged).toEqual([])
    expect(await ledger.member(damaged[0]!)).toMatchObject({ email: { typed: 'wren@m.example' } })
    expect(await addressed('wren@m.example')).toMatchObject({ verdict: expect.stringMatching(/^already/) })
  })

  test('is missed where it is gone and nothing says why; who is erased is not', async () => {
    const { lost: _, ...before } = await ledger.memberCheck.countMembers(null)
    await addressed('kay@m.example')
    const { id } = (await ledger.handOvers.withAddress(list.id, 'ada@m.example'))!
    const batch = 'erasing1' as BatchId
    await ledger.batches.begin({ id: batch, list: list.id, purpose: { kind: 'erase' } })
    await ledger.batches.addChunk(batch, 0, { erase: [id] })
    await ledger.batches.apply(batch)
    while ((await ledger.batches.step(batch, 9)) !== null);
    const erased = await ledger.memberCheck.countMembers(before)
    expect([erased.lost, erased.count]).toEqual([0, before.count])
    await damage(`DELETE FROM members WHERE compared = 'kay@m.example'`)
    expect((await ledger.memberCheck.countMembers(erased)).lost).toBe(1)
  })
})
