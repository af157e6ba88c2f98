import type { BatchProgress, CommandOutcome, ErasureReport } from '#core/api'
import type { HandOverId, JournalId, ListId, MemberId, SpotId } from '#core/ids'
import type { Batch, BatchCounts, Entry, NewEntry, PassedOver, Verdict } from '#core/journal'
import type { Member, MemberStatus } from '#core/list'
import type { Picture } from '#core/picture'
import type { SeenHour, SeenRow } from '#core/results'
import type { Body, Kind } from '#core/sync'

/** An object of the owner's. One that was taken away keeps its last body: code on pages still names it. */
export interface StoredObject {
  kind: Kind
  key: string
  revision: number
  body: Body
  isDeleted: boolean
}

/** The last of an order, with the mark that its history has there. */
export interface Newest {
  n: number
  mark: string
}

/** How long the same bytes from the same address repeat the first answer: a double click, a network's retry. */
export const RETRY_WINDOW_MS = 30_000

/** The first answer to a sign-up, for whoever sends the same once more. */
export interface FirstAnswer {
  /** The entry that came of it. */
  n: number
  /** When, in milliseconds since 1970. */
  at: number
  verdict: Verdict
  /** Whether the mail that it would have caused was held back. */
  isMailHeld: boolean
}

/** What happens to people, in one order: of everybody, or of a rehearsal's made-up people alone. */
export interface PeopleStore {
  newestEntry(): Promise<Newest>
  append(n: number, entry: NewEntry, mark: string): Promise<void>
  /** Oldest first. */
  entriesAfter(n: number, limit: number): Promise<{ entry: Entry; mark: string }[]>
  markAt(n: number): Promise<string | null>

  /** What the journal ends with, and who has an address on a list, read together: a sign-up is decided by both. */
  newestAndMember(list: string, compared: string | null): Promise<{ newest: Newest; member: Member | null }>
  member(id: MemberId): Promise<Member | null>
  memberWithAddress(list: string, compared: string): Promise<Member | null>
  keepMember(member: Member): Promise<void>
  /** The same for somebody who is here, with the address and the time of joining that they have: half the work. */
  updateMember(member: Member): Promise<void>
  /** Forgets somebody who is here; history stays. */
  dropMember(id: MemberId): Promise<void>

  /** @param retryKey names who sent exactly what */
  keepFirstAnswer(retryKey: string, answer: FirstAnswer): Promise<void>
  /** Those of entries after `n` and from a time on, oldest first. */
  firstAnswersAfter(n: number, from: number): Promise<{ key: string; answer: FirstAnswer }[]>
  /** Forgets first answers of entries before `n`, and outcomes of commands from before a time. */
  forgetAnswers(before: number, outcomesBefore: number): Promise<void>

  /**
   * Queues an open job. One of the same id that is queued already stays as it is.
   *
   * @param most none is queued where so many with the same limit key were since then
   * @returns whether it was queued
   */
  queue(job: Job, most?: { count: number; since: number }): Promise<boolean>
}

/** The priority of what has a day of its own, and of what nobody waits for. */
export const LATER = 1_000_000

/** Open until it came to its end, one way or another. */
export type JobState = 'open' | 'done' | 'refused' | 'dropped'

/** Something to be done later by one of the queue's workers, such as sending a mail. Times in milliseconds since 1970. */
export interface Job {
  id: string
  /** Which worker does it. */
  worker: string
  /** A rehearsal's code; empty for what concerns real people. */
  space: string
  /** Of those that are due, the lowest goes first. */
  priority: number
  /** Jobs of one worker and key are done one after the other, in the order in which they were queued; empty for any order. */
  orderKey: string
  /** Jobs of one key are counted together, so that a limit holds for all of them: of mail, the inbox. */
  limitKey: string
  queued: number
  /** While open, when it may be taken; from then on, when it came to its end. */
  due: number
  /** Who has it in hand; empty for nobody. */
  holder: string
  /** When whoever has it in hand lets go of it, unless the lease is renewed; 0 for nobody. */
  heldUntil: number
  state: JobState
  attempts: number
  /** What was answered last, or why nothing was done. */
  said: string
  /** What the worker has to know, as JSON. */
  body: unknown
}

/** What somebody is at the other end of a hand-over, as far as is known. */
export type HandedState = 'there' | 'to-confirm' | 'off' | 'refused'

/** What came of handing somebody over last. */
export interface Handed {
  handOver: HandOverId
  member: MemberId
  state: HandedState
  /** In milliseconds since 1970. */
  at: number
  /** What they were to be, hashed: the same is not handed over twice. */
  digest: string
  /** What the service answered, in its own words. */
  said: string
  /** What was ever sent of them, so that it can be taken away there. */
  sent?: { keys: string[]; tags: string[] }
}

/** A batch on its way. People are counted over all its chunks. */
export interface StoredBatch {
  batch: Batch
  /** When it was begun, in milliseconds since 1970. */
  begunAt: number
  state: BatchProgress['state']
  total: number
  at: number
  /** How many chunks there are, and which one, from where in it, is next. */
  chunks: number
  chunk: number
  offset: number
  counts: BatchCounts
  passedOver: PassedOver[]
  report: ErasureReport | null
}

/** What one piece of work can read and write. All of it is stored together or not at all. */
export interface Transaction extends PeopleStore {
  identity(): Promise<JournalId | null>
  keepIdentity(id: JournalId): Promise<void>

  /** Parts of a space that stands apart from the journal, by key; see `ledger/space.ts`. */
  partOfSpace(space: string, key: string): Promise<unknown>
  keepPartOfSpace(space: string, key: string, value: unknown): Promise<void>
  /** Those whose keys begin so, in the order of their keys. */
  partsOfSpace(space: string, beginning: string): Promise<unknown[]>
  /** With its jobs. */
  dropSpace(space: string): Promise<void>

  /** All entries that marked somebody as one whose address takes no mail, oldest first. */
  bounces(): Promise<Entry[]>

  batch(id: string): Promise<StoredBatch | null>
  keepBatch(batch: StoredBatch): Promise<void>
  /** Those that are being staged. */
  stagedBatches(): Promise<StoredBatch[]>
  batchChunk(batch: string, number: number): Promise<unknown>
  keepBatchChunk(batch: string, number: number, body: unknown): Promise<void>
  dropBatchChunks(batch: string): Promise<void>

  /** Takes what an entry tells of a person away, and its salt. The entry is given as it is from then on. */
  blankEntry(n: number, entry: NewEntry): Promise<void>
  isErased(hash: string): Promise<boolean>
  keepErased(hash: string): Promise<void>
  dropJob(id: string): Promise<void>
  dropDownloads(member: MemberId): Promise<void>
  /** Forgets outcomes of commands that have a text in them; resolves with how many. */
  dropOutcomesWith(text: string): Promise<number>

  outcome(id: string): Promise<CommandOutcome | null>
  keepOutcome(id: string, at: number, outcome: CommandOutcome): Promise<void>

  object(kind: Kind, key: string): Promise<StoredObject | null>
  keepObject(object: StoredObject): Promise<void>
  objectsOf(kind: Kind): Promise<StoredObject[]>
  /** As if it had never been: for what nothing refers to. */
  removeObject(kind: Kind, key: string): Promise<void>
  /** By revision, oldest first. */
  objectsAfter(revision: number, limit: number): Promise<StoredObject[]>
  newestChange(): Promise<Newest>
  keepChange(revision: number, mark: string): Promise<void>
  changeMark(revision: number): Promise<string | null>

  picture(id: string): Promise<Picture | null>
  keepPicture(picture: Picture): Promise<void>

  job(id: string): Promise<Job | null>
  /** Keeps what changes of a job: its state, and when, by whom and how often it is tried. */
  keepJob(job: Job): Promise<void>
  /** Those that may be taken now, by their priority and then the oldest first. None before whose turn it is by its order key. */
  dueJobs(worker: string, now: number, limit: number): Promise<Job[]>
  /** When the next one may be taken; null for none. */
  nextJobDue(worker: string): Promise<number | null>
  /** Takes an open job that is due in hand until a time. False where somebody else has it. */
  takeJob(id: string, holder: string, now: number, until: number): Promise<boolean>
  /** Holds on to all that somebody has in hand. */
  renewJobs(holder: string, until: number): Promise<void>
  /** Who has had it in hand stays known: it may have been done. */
  forgetLeases(): Promise<void>
  /** Jobs that are due after a time come so much sooner, and leases beyond another end with it. */
  setBackJobs(byMs: number, dueAfter: number, heldAfter: number): Promise<void>
  /** Newest first, those that concern real people. */
  jobsInState(worker: string, state: JobState, limit: number): Promise<Job[]>
  jobsOfSpace(space: string): Promise<Job[]>
  /** Newest first, those that concern real people. */
  jobsWithLimitKey(worker: string, limitKey: string, limit: number): Promise<Job[]>
  /** Of those that concern real people; `held` are open ones that somebody has in hand. */
  countJobs(worker: string): Promise<Record<JobState | 'held', number>>
  /** Those that concern real people, by the second in which they were done. */
  jobsDoneSince(worker: string, time: number): Promise<{ at: number; count: number }[]>
  /** Those that came to their end before a time. */
  forgetJobs(before: number): Promise<void>
  /** All that wait for another try are due now, as if for the first time. */
  hurryJobs(worker: string, now: number): Promise<void>
  /** How many jobs there are whose order keys begin so, in whatever state. */
  countOrdered(beginning: string): Promise<number>
  /** Takes jobs away whose order keys begin so. */
  dropOrdered(beginning: string): Promise<void>

  /** Everybody of a list whose number is higher, in order. */
  membersAfterRank(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  handed(handOver: HandOverId, member: MemberId): Promise<Handed | null>
  handedOf(member: MemberId): Promise<Handed[]>
  keepHanded(handed: Handed): Promise<void>
  /** Forgets what was handed over of somebody. */
  dropHanded(member: MemberId): Promise<void>
  /** Forgets all of a hand-over that its owner took away. */
  dropHandOver(handOver: HandOverId): Promise<void>
  /** Newest first. */
  handedInState(handOver: HandOverId, state: HandedState, limit: number, skipped?: number): Promise<Handed[]>
  countHanded(handOver: HandOverId): Promise<Record<HandedState, number>>

  /** Adds to how often a form was seen and begun. */
  countSeen(row: Required<SeenRow>): Promise<void>
  countSeenHour(row: SeenHour): Promise<void>
  /** Days, both included. */
  seenBetween(from: string, to: string): Promise<Required<SeenRow>[]>
  /** The same, all kinds of devices summed. */
  seenSums(from: string, to: string): Promise<SeenRow[]>
  seenHoursBetween(from: string, to: string): Promise<SeenHour[]>
  /** What led to a spot on a day, so far. */
  seenSources(day: string, spot: SpotId, limit: number): Promise<string[]>
  /** The first day on which each spot was counted. */
  seenSince(): Promise<{ spot: SpotId; day: string }[]>
  /** False for a part of a view that was counted before. */
  takeBeacon(id: string, at: number): Promise<boolean>
  forgetBeacons(before: number): Promise<void>

  /** Lists that somebody waits for, or did. */
  listsWithWaiting(): Promise<ListId[]>
  /** Members of a list who have been waiting since before a time, or who did; oldest first. */
  waitingSince(list: ListId, before: number): Promise<MemberId[]>
  /** Members of a list with a status, the longest on it first; at most some thousands. */
  membersWithStatus(list: ListId, status: MemberStatus): Promise<Member[]>
  /** How often somebody's gift was fetched, and when last, in milliseconds since 1970; 0 for never. */
  downloadsOf(member: MemberId): Promise<{ times: number; last: number }>
  countDownload(member: MemberId, at: number): Promise<void>
  /** Which number on their list somebody was given, from 1, whatever became of those before; null for who is not here. */
  rankOf(member: MemberId): Promise<number | null>
  /** The highest number that a list has given; 0 for none. */
  highestRank(list: string): Promise<number>
  /** Confirmed members of a list who joined on a day (UTC, ISO 8601); at most a thousand. */
  membersJoinedOn(list: string, day: string): Promise<Member[]>
  /** A single value that all processes share, by name; null where there is none, or where its time is over. */
  value(name: string, now: number): Promise<unknown>
  /** @param until when it is forgotten, in milliseconds since 1970; null for never */
  keepValue(name: string, value: unknown, until: number | null): Promise<void>
  dropValue(name: string): Promise<void>
  /** Those whose names begin so and whose time is not over, in the order of their names. */
  valuesNamed(beginning: string, now: number): Promise<{ name: string; value: unknown }[]>
  forgetValues(now: number): Promise<void>

  /** The latest time that anything here bears: of an entry, or of a touch; null where there is nothing yet. */
  lastWritten(): Promise<number | null>
  /** Writes something small, so that a disk that takes nothing more is noticed. */
  touch(at: number): Promise<void>
}

/** Where it is all stored. `tests/store-suite.ts` is what any engine has to pass. */
export interface Engine {
  /**
   * Runs `work` whole or not at all, and resolves with its result once that is on disk. Work waits for nothing but its
   * transaction, and comes to the same when it is done again.
   */
  run<T>(work: (transaction: Transaction) => Promise<T>): Promise<T>
  /** The state as of the last commit; only what reads is to be called. */
  readonly now: Transaction
  /** Bytes that the disk still takes; null where that cannot be told. */
  room(): number | null
  /** Writes a whole copy, as of a commit made meanwhile, into a file that is not there yet. Sign-ups go on. */
  copyTo(file: string): Promise<void>
  /**
   * How often any of some texts stands in what is stored, byte for byte, what is not in use any more included; null where
   * that cannot be looked at.
   */
  occurrences(texts: readonly string[]): Promise<number | null>
  onCommit(listener: () => void): void
  /** Called after another process has committed to the same store, so that what is kept in memory can be read anew. */
  onCommitElsewhere(listener: () => void): void
  close(): Promise<void>
}
