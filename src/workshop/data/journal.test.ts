import 'fake-indexeddb/auto'
import fc from 'fast-check'
import type { JournalId } from '#core/ids'
import type { Entry } from '#core/journal'
import { type Workspace, readWorkspace, workspaceParts, writeWorkspaceFrom } from '#core/workspace'
import demo from '../../../demo/cloudberry-hill.json'
import {
  beginReplacing,
  changesFor,
  database,
  emptyDatabase,
  endReplacing,
  entriesFrom,
  forgetUnknownEntries,
  lastArrivalsOf,
  OtherJournal,
  readSetting,
  takeEntries,
  takeItems,
  takeObjects,
  workspaceSource,
  writeSetting,
} from '.'

const workspace = demo as unknown as Workspace
const journal = workspace.journal.id as JournalId
const entries = workspace.journal.entries.slice(0, 120)

afterAll(() => database.close())

/** Nothing is here yet, and the receiver's history is known. */
async function begin(): Promise<void> {
  await emptyDatabase()
  await writeSetting('journal', { id: journal, cursor: 0, mark: '' })
}

async function everything(): Promise<Entry[]> {
  const found: Entry[] = []
  for await (const batch of entriesFrom(1)) found.push(...batch)
  return found
}

test('property: however a journal is cut up and repeated on its way here, each entry is here once', async () => {
  await begin()
  await takeEntries(journal, entries)
  expect(await everything()).toEqual(entries)

  await fc.assert(
    fc.asyncProperty(fc.array(fc.tuple(fc.nat(119), fc.nat(60)), { maxLength: 12 }), async (pulls) => {
      await begin()
      for (const [back, length] of pulls) {
        // A pull starts at the cursor or, repeated, somewhere before it.
        const cursor = (await readSetting('journal'))?.cursor ?? 0
        const from = Math.max(0, cursor - back)
        await takeEntries(journal, entries.slice(from, from + length))
      }
      await takeEntries(journal, entries)
      expect(await everything()).toEqual(entries)
    }),
    { numRuns: 15 },
  )
})

test('the newest sign-up of a spot is found as by reading everything', async () => {
  await begin()
  await takeEntries(journal, workspace.journal.entries)
  const all = workspace.journal.entries
  const arrivals = all.filter((entry) => entry.kind === 'arrival')
  for (const spot of new Set(arrivals.map((arrival) => arrival.spot))) {
    const last = (verdict: string) => arrivals.findLast((one) => one.spot === spot && one.verdict === verdict)
    expect(await lastArrivalsOf([spot])).toEqual(
      ['joined', 'confirm-first', 'already-on-list'].flatMap((verdict) => last(verdict) ?? []),
    )
  }
})

test('a gap, or another journal, is refused and leaves everything as it was', async () => {
  await begin()
  await takeEntries(journal, entries.slice(0, 10))
  await expect(takeEntries(journal, entries.slice(11, 20))).rejects.toThrow('entry 11 is missing')
  await expect(takeEntries('anotherjournal' as JournalId, entries)).rejects.toThrow('another history')
  expect([(await everything()).length, (await readSetting('journal'))?.cursor]).toEqual([10, 10])
})

test('a workspace that is opened and saved again is the same; until it is whole, nothing goes to a receiver or comes from one', async () => {
  await begin()
  await beginReplacing('demo.json')
  expect(await readSetting('opening')).toEqual({ file: 'demo.json' })
  const meeting = async (id: JournalId) => {
    const site = { ...workspace.sites[0]!, name: 'From elsewhere' }
    const cursor = { cursor: 1, mark: 'a' }
    for (const one of [
      changesFor(id),
      takeEntries(id, entries),
      takeObjects(id, [{ kind: 'site', key: site.id, revision: 1, body: site }], cursor, new Map()),
    ])
      await expect(one).rejects.toThrow(OtherJournal)
  }
  await meeting(journal)
  for (const part of workspaceParts) {
    const items: readonly unknown[] = part === 'journal.entries' ? workspace.journal.entries : workspace[part]
    for (let at = 0; at < items.length; at += 100)
      await takeItems(part, items.slice(at, at + 100), '2026-01-01T00:00:00.000Z', at)
  }
  await meeting(journal)
  await endReplacing({ 'journal.id': workspace.journal.id }, workspace.journal.entries.length)
  expect(await readSetting('opening')).toBeUndefined()
  await meeting('anotherjournal' as JournalId)
  expect((await changesFor(journal)).length).toBeGreaterThan(workspace.sites.length)

  let text = ''
  for await (const piece of writeWorkspaceFrom(await workspaceSource(workspace.exportedAt))) text += piece
  const reading = readWorkspace(text)
  if (!reading.ok) throw new Error(reading.problem.message)
  const saved = reading.workspace
  const byId = <T extends { id: string }>(all: T[]) => [...all].sort((one, other) => (one.id < other.id ? -1 : 1))
  for (const kind of ['sites', 'lists', 'forms', 'spots', 'pictures'] as const)
    expect(byId(saved[kind] as { id: string }[])).toEqual(byId(workspace[kind] as { id: string }[]))
  expect([saved.journal, saved.commands]).toEqual([workspace.journal, workspace.commands])
})

test('an entry of a kind that this version does not know stops no pulling, is noted, and kept for a version that knows it', async () => {
  await begin()
  const strange = { ...entries[3]!, kind: 'member-waved-at' } as unknown as Entry
  await takeEntries(journal, [...entries.slice(0, 3), strange, ...entries.slice(4)])
  expect([(await readSetting('journal'))?.cursor, await readSetting('unknownEntries')]).toEqual([120, 4])
  await forgetUnknownEntries()
  expect(await readSetting('unknownEntries')).toBe(4)
  // What it turns out to mean, once this is a newer version.
  const block = (await database.journal.get(1))!
  await database.journal.put({ ...block, entries: block.entries.with(3, entries[3]!) })
  await forgetUnknownEntries()
  expect(await readSetting('unknownEntries')).toBeUndefined()
  expect(await everything()).toEqual(entries)
})
