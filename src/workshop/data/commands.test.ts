import 'fake-indexeddb/auto'
import type { JournalId, MemberId } from '#core/ids'
import { type Entry } from '#core/journal'
import { list } from '../../../tests/tables/samples'
import {
  database,
  emptyDatabase,
  queueCommand,
  queuedCommands,
  settleCommands,
  takeBackRemoval,
  takeEntries,
  forgetErasedAddresses,
  workspaceSource,
  writeSetting,
} from '.'

const id = 'somemember' as MemberId
const journal = 'somejournal' as JournalId
const about = { at: '2026-11-01T00:00:00.000Z', command: 'somecommand', list: list.id, member: id }
const added = {
  ...about,
  n: 1,
  kind: 'member-added',
  personal: { email: { typed: 'Wren@post.example', compared: 'wren@post.example' }, values: {} },
} as Entry
const removed = { ...about, n: 2, kind: 'member-removed' } as Entry
const queued = async () =>
  (await database.commands.toArray()).map(({ command, takenBack, refusal }) => [
    command.kind,
    'revision' in command && command.revision,
    takenBack ?? null,
    refusal?.message ?? null,
  ])

beforeEach(async () => {
  await emptyDatabase()
  await writeSetting('journal', { id: journal, cursor: 0, mark: '' })
  await takeEntries(journal, [added])
})
afterAll(() => database.close())

describe('what is queued', () => {
  test('keeps the order in which it was made, and says for which history', async () => {
    for (let number = 1; number <= 30; number++)
      await queueCommand({
        kind: 'edit-member',
        list: list.id,
        member: id,
        revision: number,
        email: 'a@m.example',
        values: {},
      })
    const all = await queuedCommands()
    expect(all.map(({ command }) => (command as { revision: number }).revision)).toEqual(
      Array.from({ length: 30 }, (_, at) => at + 1),
    )
    expect(new Set(all.map(({ journal }) => journal))).toEqual(new Set(['somejournal']))
  })
  test.each([{ note: 'a\0b' }, { note: 'a\ud800' }, { note: 'x'.repeat(100_001) }, { 'Not a column': 'x' }])(
    'is only what a receiver can take: %p is refused at once',
    async (values) => {
      await expect(
        queueCommand({
          kind: 'edit-member',
          list: list.id,
          member: id,
          revision: 1,
          email: 'a@m.example',
          values: values as never,
        }),
      ).rejects.toThrow('cannot be kept')
      expect(await queuedCommands()).toEqual([])
    },
  )
})

describe('a removal that is taken back', () => {
  const remove = () => queueCommand({ kind: 'remove-member', list: list.id, member: id, revision: 1 })
  /** What a pull writes before the receiver's answer to the command is taken. */
  const pulled = () => takeEntries(journal, [removed])

  test('before it was sent never leaves', async () => {
    expect(await takeBackRemoval(await remove(), 'confirmed')).toBe(true)
    expect(await queued()).toEqual([])
  })
  test('on its way is undone on the member as the receiver then has it, and is not in a file', async () => {
    const removal = await remove()
    await database.commands.update(removal, { sentAt: '2026-11-02T00:00:00.000Z' })
    await takeBackRemoval(removal, 'left')
    expect(await queued()).toEqual([['remove-member', 1, 'left', null]])
    for await (const batch of (await workspaceSource('2026-11-02T00:00:00.000Z')).items('commands'))
      expect(batch).toEqual([])
    await pulled()
    await settleCommands([{ id: removal, ok: true, n: removed.n }])
    expect(await queued()).toEqual([['restore-member', 2, null, null]])
    expect((await database.commands.toArray())[0]!.command).toMatchObject({ member: id, status: 'left' })
  })
  test('that the receiver refuses is nothing to tell', async () => {
    const removal = await remove()
    await database.commands.update(removal, { sentAt: '2026-11-02T00:00:00.000Z' })
    await takeBackRemoval(removal, 'confirmed')
    expect(await queued()).toHaveLength(1)
    await settleCommands([{ id: removal, ok: false, problem: { message: 'Changed meanwhile.' } as never }])
    expect(await queued()).toEqual([])
  })
  test('when it is done is for whoever restores its member', async () => {
    const removal = await remove()
    await pulled()
    await settleCommands([{ id: removal, ok: true, n: removed.n }])
    expect(await takeBackRemoval(removal, 'confirmed')).toBe(false)
    expect(await queued()).toEqual([])
  })
  test('and refused before that is left to be read', async () => {
    const removal = await remove()
    await settleCommands([{ id: removal, ok: false, problem: { message: 'Changed meanwhile.' } as never }])
    await takeBackRemoval(removal, 'confirmed')
    expect(await queued()).toEqual([['remove-member', 1, null, 'Changed meanwhile.']])
  })
})

describe('once somebody is erased', () => {
  test('nothing waits that names them: neither by who they were nor by their address, refused or not', async () => {
    const add = (email: string, who: string) =>
      queueCommand({ kind: 'add-member', list: list.id, member: who as MemberId, email, values: {} })
    const refused = await add('WREN@post.example', 'neveradded')
    await settleCommands([{ id: refused, ok: false, problem: { message: 'On the list already.' } as never }])
    await queueCommand({ kind: 'note-member', list: list.id, member: id, text: 'Met at the open night' })
    await add('robin@post.example', 'somebodyelse')
    const erased = { ...about, n: 2, kind: 'members-erased', batch: 'somebatch', id: 'someentry', member: null }
    const hashes = ['hashofwren']
    await takeEntries(journal, [{ ...erased, members: [id], entries: [1], hashes } as unknown as Entry])
    // The receiver alone knows whose address it was.
    const asked: string[][] = []
    const erasedAmong = async (addresses: string[]) => {
      asked.push(addresses)
      return addresses.flatMap((one, place) => (one === 'wren@post.example' ? [place] : []))
    }
    await forgetErasedAddresses(erasedAmong)
    await forgetErasedAddresses(erasedAmong)
    expect(asked.map((one) => one.toSorted())).toEqual([['robin@post.example', 'wren@post.example']])
    expect((await database.commands.toArray()).map(({ command }) => command)).toMatchObject([
      { email: 'robin@post.example' },
    ])
  })
})
