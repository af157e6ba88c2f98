import type { BatchProgress } from '#core/api'
import type { BatchId, JournalId, ListId, MemberId } from '#core/ids'
import type { ImportPlan } from '#core/import'
import type { Entry, MemberChange } from '#core/journal'
import { type PeopleFormat, peopleWriter } from '#core/export'
import {
  type BatchRecord,
  type Column,
  type Found,
  type List,
  type Member,
  type MemberStatus,
  Roster,
  type Wanted,
} from '#core/list'
import type { Pairing } from '../client'
import { entriesAt, entriesFrom, newestEntry, type QueuedCommand, readSetting, writeSetting } from '../data'
import { checkMembers } from './member-check'
import { changeMany, copyMany, eraseMany, membersOf, settle, type Settled, undoBatch } from './batches'
import { type GrowthDay, growthOf } from './growth'
import { type Brought, type DryRun, dryRun, type FileLook, importFile, lookAtFile, type Reading } from './imports'
import { findWithPending, memberWithPending, type ShownMember } from './pending'
import { receiptNames, receiptTexts } from './receipts'
import { Stopped, type Task, throwIfStopped } from './task'

/**
 * Everybody, beside the interface: the journal folded once when first asked for, then kept in step with what is pulled.
 * A million people take seconds to fold and some hundred megabytes; none of it is the page's.
 */
export interface PeopleAsks {
  find(wanted: Wanted, queued: readonly QueuedCommand[]): Found
  /** How many there are of each. */
  count(wanted: readonly Wanted[]): number[]
  /** Keeps who is found now, so that exactly they are changed later. */
  settle(wanted: Wanted): { people: Settled; count: number }
  tagCounts(list: ListId): { tag: string; count: number }[]
  batches(list: ListId): BatchRecord[]
  /** How many joined a list and how many left it, by day (UTC), from the first to the last on which anybody did. */
  growth(list: ListId): GrowthDay[]
  withAddress(list: ListId, compared: string): Member | null
  consents(list: ListId, member: MemberId): GivenConsent[]
  person(list: ListId, member: MemberId, queued: readonly QueuedCommand[]): Person | null
}
/** What takes long: told how far it is, and stopped when its owner wants to. */
export interface PeopleTasks {
  /** Everybody who is wanted, as a file. */
  file(chosen: Settled, format: PeopleFormat, columns: readonly Column[]): PeopleFile
  change(pairing: Pairing, chosen: Settled, change: MemberChange): BatchProgress
  erase(pairing: Pairing, chosen: Settled): BatchProgress
  copy(pairing: Pairing, chosen: Settled, target: List): BatchProgress
  undo(pairing: Pairing, batch: BatchId): BatchProgress
  /** The first of those whom the receiver keeps otherwise than the journal tells; null for none. */
  checkMembers(pairing: Pairing, lists: ListId[]): { list: ListId; email: string } | null
  lookAtFile(file: Blob, list: List, said: Partial<Reading>): FileLook | { problem: { message: string } }
  dryRun(file: Blob, reading: Reading, plan: ImportPlan, list: List): DryRun
  importFile(
    pairing: Pairing,
    file: Blob,
    reading: Reading,
    plan: ImportPlan,
    list: List,
    about: { from: string; consent: string; asksByMail?: boolean },
  ): Brought
}
export interface PeopleFile {
  blob: Blob
  count: number
  /** What its name ends with. */
  ending: string
}
/** What one person's page tells, but for mail, which the receiver knows of. */
export interface Person {
  member: ShownMember
  /** All that happened to them on this list, oldest first. */
  entries: Entry[]
  /** What will have happened once it is at the receiver. */
  waiting: Entry[]
  /** The same address on other lists. */
  elsewhere: Member[]
  /** Those that they were part of. */
  batches: BatchRecord[]
}
export interface GivenConsent {
  field: string
  wording: string
  at: string
  version: number
}
export type Counts = Record<ListId, Record<MemberStatus, number>>
export type ToPeople =
  | { kind: 'catch-up' }
  | { kind: 'ask'; n: number; name: keyof PeopleAsks; args: readonly unknown[] }
  | { kind: 'task'; n: number; name: keyof PeopleTasks; args: readonly unknown[] }
  | { kind: 'stop'; n: number }
export type FromPeople =
  | { kind: 'answer'; n: number; result: unknown }
  | { kind: 'failed'; n: number; message: string; isStopped: boolean }
  /** How far a task is, 0 to 1. */
  | { kind: 'share'; n: number; share: number }
  /** Somebody changed. Counts of before are those of the last time, until all are here. */
  | { kind: 'changed'; isReady: boolean; counts: Counts }

/** More than one screen of a list, and read in no time. */
const LATE_ENTRIES = 500
/** People who are written to a file in one go. */
const FILE_PIECE = 5_000
/** Counts are kept for the next opening, once a while passed without news. */
const KEEP_AFTER_MS = 3_000

const roster = new Roster()
/** Who joined of late, folded from the end of the journal alone: shown until everybody is here. */
let late: Roster | null = null
let isReady = false
let working: Promise<void> | null = null
let keeping: ReturnType<typeof setTimeout> | undefined
const say = (message: FromPeople) => self.postMessage(message)

async function catchUp(): Promise<void> {
  const newest = await newestEntry()
  const journal = (await readSetting('journal'))?.id ?? null
  // Emptied, or another workspace: nothing of before holds.
  if (newest < roster.cursor) roster.clear()
  if (!isReady && roster.cursor === 0) await showKept(journal, newest)
  if (newest - roster.cursor > LATE_ENTRIES) {
    late = new Roster()
    for await (const batch of entriesFrom(newest - LATE_ENTRIES)) late.take(batch)
    if (!isReady) say({ kind: 'changed', isReady, counts: shown })
  }
  for await (const batch of entriesFrom(roster.cursor + 1)) roster.take(batch)
  isReady = true
  late = null
  shown = roster.allCounts()
  say({ kind: 'changed', isReady, counts: shown })
  clearTimeout(keeping)
  keeping = setTimeout(() => void keep(journal).catch(console.error), KEEP_AFTER_MS)
}

let shown: Counts = {}
/** The counts of the last time, so that nobody waits for numbers that are known. */
async function showKept(journal: JournalId | null, newest: number): Promise<void> {
  const stored = await readSetting('peopleCounts')
  if (stored === undefined || stored.journal !== journal || stored.cursor > newest) return
  shown = stored.counts
  say({ kind: 'changed', isReady, counts: shown })
}
async function keep(journal: JournalId | null): Promise<void> {
  if ((await readSetting('peopleCounts'))?.cursor !== roster.cursor)
    await writeSetting('peopleCounts', { journal, cursor: roster.cursor, counts: roster.allCounts() })
}

const asks: {
  [Name in keyof PeopleAsks]: (...args: Parameters<PeopleAsks[Name]>) => Promise<ReturnType<PeopleAsks[Name]>>
} = {
  find: async (wanted, queued) => findWithPending(isReady ? roster : (late ?? roster), wanted, queued, Date.now()),
  async count(wanted) {
    await working
    return wanted.map((one) => roster.count(one, Date.now()))
  },
  async settle(wanted) {
    await working
    return settle(roster, wanted)
  },
  async tagCounts(list) {
    await working
    return roster.tagCounts(list)
  },
  async batches(list) {
    await working
    return roster.batches(list)
  },
  async growth(list) {
    await working
    return growthOf(list)
  },
  async withAddress(list, compared) {
    await working
    return roster.withAddress(list, compared)
  },
  async person(list, id, queued) {
    await working
    const shown = memberWithPending(roster, list, id, queued)
    if (shown === null) return null
    const { member } = shown
    const entries = await entriesAt(roster.entriesAbout(list, id))
    const batches = new Set(entries.flatMap((entry) => ('batch' in entry ? [entry.batch] : [])))
    return {
      ...shown,
      entries,
      batches: [...batches].flatMap((batch) => roster.batch(batch) ?? []),
      elsewhere: roster.everywhere(member.email.compared).filter((one) => one.list !== list),
    }
  },
  async consents(list, member) {
    await working
    return (await entriesAt(roster.entriesAbout(list, member)))
      .flatMap((entry) =>
        entry.kind === 'arrival'
          ? (entry.personal?.consents ?? []).map((consent) => ({ ...consent, at: entry.at, version: entry.version }))
          : [],
      )
      .reverse()
  },
}

const tasks: {
  [Name in keyof PeopleTasks]: (
    task: Task,
    ...args: Parameters<PeopleTasks[Name]>
  ) => Promise<ReturnType<PeopleTasks[Name]>>
} = {
  async file(task, chosen, format, columns) {
    const { start, piece, ending, type } = peopleWriter(format, columns)
    const pieces: Blob[] = [new Blob([start])]
    const names = columns.some(({ key }) => key === ':receipt') ? await receiptNames(roster) : null
    const members = membersOf(roster, chosen)
    for (let at = 0; at < members.length; at += FILE_PIECE) {
      throwIfStopped(task)
      // The browser may keep what a blob holds outside of memory.
      const some = members.slice(at, at + FILE_PIECE)
      const receipts = names === null ? undefined : await receiptTexts(roster, some, names)
      pieces.push(new Blob([piece(some, receipts)]))
      task.tell(at / members.length)
      await turnOfOthers()
    }
    return { blob: new Blob(pieces, { type }), count: members.length, ending }
  },
  change: (task, pairing, chosen, change) => changeMany(pairing, chosen, change, task),
  erase: (task, pairing, chosen) => eraseMany(pairing, chosen, task),
  copy: (task, pairing, chosen, target) => copyMany(roster, pairing, chosen, target, task),
  async undo(task, pairing, batch) {
    const record = roster.batch(batch)
    if (record === null) throw new Error('This was never done here.')
    return undoBatch(roster, pairing, record, task)
  },
  lookAtFile: (task, file, list, said) => lookAtFile(file, list, said, task),
  checkMembers: (task, pairing, lists) => checkMembers(roster, pairing, lists, task),
  dryRun: (task, file, reading, plan, list) => dryRun(roster, file, reading, plan, list, task),
  importFile: (task, pairing, file, reading, plan, list, about) =>
    importFile(roster, pairing, file, reading, plan, list, about, task),
}

const turnOfOthers = () => new Promise((resolve) => setTimeout(resolve))

const stoppers = new Map<number, AbortController>()

self.addEventListener('message', ({ data }: MessageEvent<ToPeople>) => {
  if (data.kind === 'catch-up') {
    working = (working ?? Promise.resolve()).then(catchUp).catch(console.error)
    return
  }
  if (data.kind === 'stop') {
    stoppers.get(data.n)?.abort()
    return
  }
  const { n, args } = data
  void (data.kind === 'ask' ? asked(data.name, args) : done(n, data.name, args)).then(
    (result) => say({ kind: 'answer', n, result }),
    (error: unknown) =>
      say({
        kind: 'failed',
        n,
        message: error instanceof Error ? error.message : String(error),
        isStopped: error instanceof Stopped,
      }),
  )
})

function asked(name: keyof PeopleAsks, args: readonly unknown[]): Promise<unknown> {
  return (asks[name] as (...args: readonly unknown[]) => Promise<unknown>)(...args)
}

async function done(n: number, name: keyof PeopleTasks, args: readonly unknown[]): Promise<unknown> {
  const stopper = new AbortController()
  stoppers.set(n, stopper)
  await working
  const task: Task = { tell: (share) => say({ kind: 'share', n, share }), signal: stopper.signal }
  try {
    return await (tasks[name] as (task: Task, ...args: readonly unknown[]) => Promise<unknown>)(task, ...args)
  } finally {
    stoppers.delete(n)
  }
}
