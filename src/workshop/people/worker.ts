import { expose } from 'comlink'
import type { BatchProgress } from '#core/api'
import type { BatchId, JournalId, ListId, MemberId, SpotId } from '#core/ids'
import type { Entry, MemberChange } from '#core/journal'
import { type FactWords, type PeopleFormat, peopleWriter } from '#core/export'
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
import {
  type ComingsAndGoings,
  comingsAndGoings,
  type GrowthRow,
  type LookedAt,
  PeopleCounter,
  type SignUpRow,
} from '#core/results'
import type { Pairing } from '../client'
import { entriesAt, entriesFrom, newestEntry, type QueuedCommand, readSetting, writeSetting } from '../data'
import { checkMembers } from './member-check'
import { changeMany, copyMany, eraseMany, membersOf, settle, type Settled, undoBatch } from './batches'
import {
  type Brought,
  type DryRun,
  dryRun,
  type FileLook,
  importFile,
  lookAtFile,
  type FileReading,
  type ReadFile,
} from './imports'
import { findWithPending, memberWithPending, type ShownMember } from './pending'
import { receiptNames, receiptTexts } from './receipts'
import { type Task, taskOf, throwIfStopped } from '../worker-calls'

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
  /** What the journal says of sign-ups, and what of growth, hours and delays is looked at. */
  results(clocks: Clocks, looked: LookedAt | null): { rows: SignUpRow[]; comings: ComingsAndGoings | null }
  /** How a list grew, by the days of this computer's clocks on which anybody came or went, the first one first. */
  growth(list: ListId): GrowthRow[]
  /** Somebody as the journal has them by now, with what was just pulled. */
  current(list: ListId, member: MemberId): Member | null
  withAddress(list: ListId, compared: string): Member | null
  /** How each stands now; null for who is on no list any more. */
  standings(of: readonly { list: ListId; member: MemberId }[]): (Pick<Member, 'status' | 'email'> | null)[]
  consents(list: ListId, member: MemberId): GivenConsent[]
  person(list: ListId, member: MemberId, queued: readonly QueuedCommand[]): PersonFacts | null
}
/** What takes long: told how far it is, and stopped when its owner wants to. */
export interface PeopleTasks {
  /** Everybody who is wanted, as a file. */
  file(chosen: Settled, format: PeopleFormat, columns: readonly Column[], words: FactWords): PeopleFile
  change(pairing: Pairing, chosen: Settled, change: MemberChange): BatchProgress
  erase(pairing: Pairing, chosen: Settled): BatchProgress
  copy(pairing: Pairing, chosen: Settled, target: List): BatchProgress
  undo(pairing: Pairing, batch: BatchId): BatchProgress
  /** The first of those whom the receiver keeps otherwise than the journal tells; null for none. */
  checkMembers(pairing: Pairing, lists: ListId[]): { list: ListId; email: string } | null
  lookAtFile(file: Blob, list: List, said: Partial<FileReading>): FileLook | { problem: { message: string } }
  dryRun(pairing: Pairing, list: List, read: ReadFile): DryRun
  importFile(pairing: Pairing, read: Parameters<typeof importFile>[2]): Brought
}
export interface PeopleFile {
  blob: Blob
  count: number
  /** What its name ends with. */
  ending: string
}
/** What one person's page tells, but for mail, which the receiver knows of. */
export interface PersonFacts {
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

/** By which clocks days are told. */
export interface Clocks {
  /** Of each spot, its site's zone. */
  zones: Record<SpotId, string>
  /** Of all others, and of lists. */
  zone: string
}
const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone
/** Counted beside the roster, from when it is asked for the first time. */
let counted: { clocks: string; counter: PeopleCounter; take(entries: readonly Entry[]): void } | null = null

/** One reading of the whole journal at a time. */
let counting: Promise<unknown> = Promise.resolve()
/** How often everybody was forgotten: a count from before is of another workspace. */
let cleared = 0

/** Counted beside what else is asked: finding somebody does not wait for a whole journal. */
function countedBy(clocks: Clocks): Promise<PeopleCounter> {
  const next = counting.then(() => count(clocks))
  counting = next.catch(() => {})
  return next
}

async function count({ zones, zone }: Clocks): Promise<PeopleCounter> {
  await working
  const clocks = JSON.stringify([zones, zone])
  if (counted?.clocks === clocks) return counted.counter
  const [counter, begun] = [new PeopleCounter((spot) => zones[spot] ?? zone, zone), cleared]
  const take = (entries: readonly Entry[]) => {
    for (const entry of entries) counter.add(entry)
  }
  for (let cursor = 0; cursor < roster.cursor && begun === cleared;) {
    const end = roster.cursor
    for await (const entries of entriesFrom(cursor + 1, end)) take(entries)
    cursor = end
  }
  if (begun !== cleared) return count({ zones, zone })
  // At the roster's entry, with nothing awaited since: from here on both take the same.
  counted = { clocks, counter, take }
  return counter
}

/** Told that somebody changed. Counts of before are those of the last time, until all are here. */
export type Follow = (isReady: boolean, counts: Counts) => void
let say: Follow | null = null

async function catchUp(): Promise<void> {
  const newest = await newestEntry()
  const journal = (await readSetting('journal'))?.id ?? null
  // Emptied, or another workspace: nothing of before holds.
  if (newest < roster.cursor) {
    roster.clear()
    cleared += 1
    counted = null
  }
  if (!isReady && roster.cursor === 0) await showKept(journal, newest)
  if (newest - roster.cursor > LATE_ENTRIES) {
    late = new Roster()
    for await (const batch of entriesFrom(newest - LATE_ENTRIES)) late.take(batch)
    if (!isReady) say?.(isReady, shown)
  }
  for await (const batch of entriesFrom(roster.cursor + 1)) {
    roster.take(batch)
    counted?.take(batch)
  }
  isReady = true
  late = null
  shown = roster.allCounts()
  say?.(isReady, shown)
  clearTimeout(keeping)
  keeping = setTimeout(() => void keep(journal).catch(console.error), KEEP_AFTER_MS)
}

let shown: Counts = {}
/** The counts of the last time, so that nobody waits for numbers that are known. */
async function showKept(journal: JournalId | null, newest: number): Promise<void> {
  const stored = await readSetting('peopleCounts')
  if (stored === undefined || stored.journal !== journal || stored.cursor > newest) return
  shown = stored.counts
  say?.(isReady, shown)
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
  async results(clocks, looked) {
    const results = (await countedBy(clocks)).results()
    return { rows: results.rows, comings: looked === null ? null : comingsAndGoings(results, looked) }
  },
  async growth(list) {
    // Lists have no zone of their own, so whatever spots are counted by, growth is by the same clocks.
    return (counted?.counter ?? (await countedBy({ zones: {}, zone: ZONE }))).growthOf(list)
  },
  async current(list, member) {
    await step(catchUp)
    return roster.get(list, member)
  },
  async standings(of) {
    await working
    return of.map(({ list, member }) => {
      const found = roster.get(list, member)
      return found && { status: found.status, email: found.email }
    })
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
  async file(task, chosen, format, columns, words) {
    const { start, piece, ending, type } = peopleWriter(format, columns, words)
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
  copy: (task, pairing, chosen, target) => copyMany({ roster, pairing, chosen, target, task }),
  async undo(task, pairing, batch) {
    const record = roster.batch(batch)
    if (record === null) throw new Error('This was never done here.')
    return undoBatch(roster, pairing, record, task)
  },
  lookAtFile: (task, file, list, said) => lookAtFile(file, list, said, task),
  checkMembers: (task, pairing, lists) => checkMembers(roster, pairing, lists, task),
  dryRun: (task, pairing, list, read) => dryRun(roster, pairing, { list, ...read }, task),
  importFile: (task, pairing, read) => importFile(roster, pairing, read, task),
}

const turnOfOthers = () => new Promise((resolve) => setTimeout(resolve))

/** One after the other: what reads everybody does not meet them half changed. */
function step<Result>(work: () => Promise<Result>): Promise<Result> {
  const next = (working ?? Promise.resolve()).then(work)
  working = next.then(
    () => {},
    () => {},
  )
  return next
}

const caughtUp = (): Promise<void> => step(catchUp).catch(console.error)

const functions = {
  /** Reads everybody, and tells of each change from then on. */
  follow(tell: Follow): Promise<void> {
    say = tell
    return caughtUp()
  },
  catchUp: caughtUp,
  ask<Name extends keyof PeopleAsks>(name: Name, args: Parameters<PeopleAsks[Name]>): Promise<unknown> {
    return (asks[name] as (...args: readonly unknown[]) => Promise<unknown>)(...args)
  },
  async work<Name extends keyof PeopleTasks>(
    name: Name,
    port: MessagePort,
    args: Parameters<PeopleTasks[Name]>,
  ): Promise<unknown> {
    const task = taskOf(port)
    await working
    return (tasks[name] as (task: Task, ...args: readonly unknown[]) => Promise<unknown>)(task, ...args)
  },
}
export type PeopleFunctions = typeof functions
expose(functions)
