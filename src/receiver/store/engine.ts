import type { JournalId, ListId, MemberId } from '#core/ids'
import type { Entry, NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import type { MailKind } from '#core/mail'
import type { Picture } from '#core/picture'
import type { Body, Kind } from '#core/sync'
import type { CommandOutcome } from '../ledger/ledger'

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

/** What happens to people, in one order: of everybody, or of a rehearsal's made-up people alone. */
export interface People {
  newestEntry(): Newest
  append(n: number, entry: NewEntry, mark: string): void
  /** Oldest first. */
  entriesAfter(n: number, limit: number): { entry: Entry; mark: string }[]
  markAt(n: number): string | null

  member(id: MemberId): Member | null
  memberWithAddress(list: string, compared: string): Member | null
  keepMember(member: Member): void

  /** Keeps what names who sent exactly what came of entry `n`. */
  keepRetry(n: number, key: string): void
  /** Those of entries before `n`. */
  forgetRetries(n: number): void
  forgetOutcomes(before: number): void

  /**
   * Queues one that waits. One of the same id that is queued already stays as it is.
   *
   * @param most none is queued where the inbox got so many since then
   * @returns whether it was queued
   */
  queueMail(mail: QueuedMail, most?: { count: number; since: number }): boolean
}

/** The turn of what has a day of its own, and of what nobody waits for. */
export const LATER_TURN = 1_000_000

export type MailState = 'waiting' | 'sending' | 'sent' | 'refused' | 'dropped'

/** One mail, queued with what caused it; it is written when it is sent. Times in milliseconds since 1970. */
export interface QueuedMail {
  id: string
  /** A rehearsal's code; empty for real people. */
  space: string
  list: ListId
  /** Empty for the owner's daily notice. */
  member: MemberId | ''
  kind: MailKind
  /** The address as it was typed, and as it is compared. */
  recipient: string
  compared: string
  /** Where it arrives, as far as the address tells: see `inboxOf`. */
  inbox: string
  /** Of what is due, the lowest goes first. */
  turn: number
  queued: number
  due: number
  state: MailState
  attempts: number
  /** What the mail server answered last, or why nothing was sent. */
  said: string
  sent: number
}

/** What one piece of work can read and write. All of it is stored together or not at all. */
export interface Transaction extends People {
  identity(): JournalId | null
  keepIdentity(id: JournalId): void

  /** Parts of a space that stands apart from the journal, by key; see `ledger/space.ts`. */
  partOfSpace(space: string, key: string): unknown
  keepPartOfSpace(space: string, key: string, value: unknown): void
  /** Those whose keys begin so, in the order of their keys. */
  partsOfSpace(space: string, beginning: string): unknown[]
  /** Null for all spaces. */
  dropSpace(space: string | null): void

  /** What is kept of retries, oldest first, each with its entry. */
  retries(): { key: string; entry: Entry }[]

  /** All entries that marked somebody as one whose address takes no mail, oldest first. */
  bounces(): Entry[]

  outcome(id: string): CommandOutcome | null
  keepOutcome(id: string, at: number, outcome: CommandOutcome): void

  object(kind: Kind, key: string): StoredObject | null
  keepObject(object: StoredObject): void
  objectsOf(kind: Kind): StoredObject[]
  /** As if it had never been: for what nothing refers to. */
  removeObject(kind: Kind, key: string): void
  /** By revision, oldest first. */
  objectsAfter(revision: number, limit: number): StoredObject[]
  newestChange(): Newest
  keepChange(revision: number, mark: string): void
  changeMark(revision: number): string | null

  picture(id: string): Picture | null
  keepPicture(picture: Picture): void

  mail(id: string): QueuedMail | null
  keepMail(mail: QueuedMail): void
  /** Due ones, by their turn and then the oldest first. */
  dueMails(now: number, limit: number): QueuedMail[]
  /** When the next one is due; null for none. */
  nextMailDue(): number | null
  /** Those that a process that ended had taken in hand. */
  mailsInHand(): QueuedMail[]
  /** Newest first, those of real people. */
  mailsInState(state: MailState, limit: number): QueuedMail[]
  mailsOfSpace(space: string): QueuedMail[]
  countMails(state: MailState): number
  /** By the second in which they were sent. */
  mailsSentSince(time: number): { at: number; count: number }[]
  forgetMails(before: number): void
  /** All that wait for another try are due now, as if for the first time. */
  hurryMails(now: number): void
  /** Lists that somebody waits for, or did. */
  listsWithWaiting(): ListId[]
  /** Members of a list who have been waiting since before a time, or who did; oldest first. */
  waitingSince(list: ListId, before: number): MemberId[]
  downloadsOf(member: MemberId): number
  countDownload(member: MemberId): void
  /** Which number on their list somebody was given, from 1, whatever became of those before; null for who is not here. */
  rankOf(member: MemberId): number | null
  /** The highest number that a list has given; 0 for none. */
  highestRank(list: string): number
  /** Confirmed members of a list who joined on a day (UTC, ISO 8601); at most a thousand. */
  membersJoinedOn(list: string, day: string): Member[]
  /** How mail is sent, as JSON; null before it was set up. */
  outboxSettings(): string | null
  keepOutboxSettings(json: string): void

  /** The latest time that anything here bears: of an entry, or of a touch; null where there is nothing yet. */
  lastWritten(): number | null
  /** Writes something small, so that a disk that takes nothing more is noticed. */
  touch(at: number): void
}

/** Where it is all stored. `tests/store-suite.ts` is what any engine has to pass. */
export interface Engine {
  /** Runs `work` whole or not at all, and resolves with its result once that is on disk. */
  run<T>(work: (transaction: Transaction) => T): Promise<T>
  /** The state as of the last commit; only what reads is to be called. */
  readonly now: Transaction
  /** Bytes that the disk still takes; null where that cannot be told. */
  room(): number | null
  /** Writes a whole copy, as of a commit made meanwhile, into a file that is not there yet. Sign-ups go on. */
  copyTo(file: string): Promise<void>
  onCommit(listener: () => void): void
  /** Called whenever work was rolled back, so that what is kept in memory can be read anew. */
  onUndo(listener: () => void): void
  close(): Promise<void>
}
