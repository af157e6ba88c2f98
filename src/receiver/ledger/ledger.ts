import type { BatchProgress, ChangeOutcome, CommandOutcome, JournalCheck } from '#core/api'
import type { HandOver } from '#core/connection'
import type { HandOverId, JournalId, MemberId } from '#core/ids'
import type { Arrival, Batch, Chunk, Command, Entry, Verdict } from '#core/journal'
import type { Member } from '#core/list'
import type { Picture } from '#core/picture'
import type { SignUp } from '#core/signup'
import type { Change, Kept } from '#core/sync'
import type { Workspace } from '#core/workspace'
import type { Cause } from '../limits'
import type { Queue } from '../queue'
import type { Handed, HandedState, Job } from '../store'
import type { BatchResult } from './batches'
import type { HandOverCounts } from './handing'
import type { MailFate } from './mailing'
import type { Published } from './published'
import type { CountedView, Results } from './results'
import type { Values } from './values'

export interface SignUpResult {
  verdict: Verdict
  /** True when this was a retry and the answer of the first try is repeated; nothing new was stored. */
  repeated: boolean
  /** Who it is about; an id of nobody for a bot, so that none can be told from another. */
  member: MemberId
  /** Whether the mail that it would have caused was held back; see `MailFate`. */
  isMailHeld: boolean
}

/** What came of following a confirmation link. */
export type Confirmed = 'confirmed' | 'used' | 'expired'

/** One order of people: everybody's, or of a rehearsal's made-up people. */
export interface PeopleLedger {
  /**
   * Stores one sign-up, in one order with all others.
   *
   * @param retryKey names who sent exactly what
   * @param cause who causes the mail that comes of it; nobody's flood where not given
   * @param view the view that it comes of, counted with it
   */
  signUp(signUp: SignUp, retryKey: string, cause?: Cause, view?: CountedView | null): Promise<SignUpResult>
  member(id: MemberId): Promise<Member | null>
  /** @param since when the waiting began that the link belongs to */
  confirm(id: MemberId, since: string): Promise<Confirmed>
  leave(id: MemberId, by: 'page' | 'one-click' | 'service'): Promise<boolean>
  comeBack(id: MemberId): Promise<boolean>
  /** @param isExtra whether one may go beyond the inbox's share for today */
  sendAgain(id: MemberId, isExtra?: boolean): Promise<MailFate>
  /** Ends somebody's waiting. */
  expire(id: MemberId): Promise<boolean>
}

/**
 * A journal of its own for a rehearsal's made-up people: written by the same writer and folded by the same fold, in the
 * same store and its commits, and dropped as a whole. Nothing of it is seen by anybody else.
 */
export interface Space extends PeopleLedger {
  /** What is known of an address, in any list. */
  known(email: string): Promise<{ member: Member | null; arrivals: Arrival[] }>
  /** Keeps a mail to one of them, where no mailbox takes it. */
  keepMail(mail: SpaceMail): Promise<void>
  mails(): Promise<SpaceMail[]>
  drop(): Promise<void>
}

export interface SpaceMail {
  to: string
  /** Milliseconds since 1970. */
  at: number
  /** Base64. */
  bytes: string
}

export type RefillResult =
  | { ok: true; latest: number }
  | { ok: false; code: 'not-empty' | 'gap' | 'broken-reference' | 'address-twice'; message: string }
export type PictureResult = { ok: true } | { ok: false; code: 'wrong-id'; message: string }

export interface Recovered {
  latest: number
  /** Entries that were taken in, and those that could not be any more. */
  taken: number
  left: number
}

/** The name for "this is not the history that you know". */
export const OTHER_HISTORY = 'other-history'

/** A stretch of an order after a cursor, and the cursor and mark from which to go on. */
export interface Page<T> {
  items: T[]
  cursor: number
  mark: string
  latest: number
}

/** Many people of a list changed as one: staged in chunks, applied whole, going on after a crash. See `batches.ts`. */
export interface Batches {
  begin(batch: Batch): Promise<BatchResult>
  addChunk(id: string, number: number, chunk: Chunk): Promise<BatchResult>
  apply(id: string): Promise<BatchResult>
  /** What was applied until then stays. */
  stop(id: string): Promise<BatchResult>
  progress(id: string): Promise<BatchProgress | null>
  /** Applies the next few people of a batch; null at its end. */
  step(id: string, most: number): Promise<BatchProgress | null>
  /** Forgets those whose workshop never sent all of them. */
  dropForgotten(): Promise<void>
}

/** Lists carried on by connections; see `handing.ts`. */
export interface HandOvers {
  /** Queues everybody of its list. */
  begin(handOver: HandOver): Promise<void>
  /** Queues some once more, whatever is known of them. */
  again(handOver: HandOver, members: readonly MemberId[], as?: { isMend?: boolean }): Promise<void>
  /** Queues the next few of a job that stands for many. */
  spread(job: Job, handOver: HandOver): Promise<void>
  /** Writes down what came of a job, and takes it from the queue, in one. */
  finish(job: Job, handed: Handed | null): Promise<void>
  /** Writes down what is known of somebody at the other end. */
  note(handed: Handed): Promise<void>
  handed(handOver: HandOverId, member: MemberId): Promise<Handed | null>
  handedOf(member: MemberId): Promise<Handed[]>
  inState(handOver: HandOverId, state: HandedState, limit: number, skipped?: number): Promise<Handed[]>
  /** Forgets what is kept of hand-overs that were taken away. */
  forgetGone(): Promise<void>
  counts(handOver: HandOver): Promise<HandOverCounts>
  /** Everybody of a list, in order, some at once. */
  membersAfter(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  withAddress(list: string, compared: string): Promise<Member | null>
}

/** What happens to people and what the owner makes, in one place and one order each. Every promise of a writing method resolves only after its change is on disk. */
export interface Ledger extends PeopleLedger {
  journalId(): Promise<JournalId>
  /** Where a rehearsal's made-up people live. */
  space(name: string): Space
  /** Carries out each command at most once, however often it is sent; one that is refused stops none of the others. */
  carryOut(commands: readonly Command[]): Promise<CommandOutcome[]>
  /** Entries with numbers above `after`. Null when `mark` is not the one that this journal has at `after`. */
  entriesAfter(after: number, mark: string | null, limit: number): Promise<Page<Entry> | null>
  /** Whether some thousand entries after a number are as they were written. */
  check(after: number): Promise<JournalCheck>
  /** Number of the newest entry, 0 for an empty journal. */
  latest(): Promise<number>

  bounce(id: MemberId, reason: string): Promise<boolean>
  /** How many are marked for a refusal that was not about their address. */
  countWronglyBounced(): Promise<number>
  /** Puts those back to what they were, and sends the confirmation again to who waited; resolves with how many. */
  putBackWronglyBounced(): Promise<number>
  /** The same for some who were marked last of all that happened to them. */
  putBackBounced(members: readonly MemberId[]): Promise<number>
  /** Removes those who did not confirm within their list's days; resolves with how many. */
  expireWaiting(): Promise<number>
  /** Has those erased whom their lists keep no longer; resolves with how many. */
  eraseKeptLongEnough(): Promise<number>
  /** How often somebody's gift was fetched. */
  downloadsOf(id: MemberId): Promise<number>
  /** When it was fetched last, in milliseconds since 1970; 0 for never. */
  lastDownload(id: MemberId): Promise<number>
  /** Counts one fetching of it; false, and not counted, where it was fetched so often already. */
  takeDownload(id: MemberId, most: number | null): Promise<boolean>
  /** Whether somebody is among the first so many of a list. */
  isAmongFirst(member: Member, many: number): Promise<boolean>
  /** Who joined a list on a day (UTC, ISO 8601) and is on it now. */
  joinedOn(list: string, day: string): Promise<Member[]>
  /** All that is done later. */
  queue: Queue
  /** Single values that all processes share. */
  values: Values
  /** How often forms were seen and begun. */
  results: Results
  /** What links in mails are signed with; made when it is needed first. */
  linkKey(): Promise<string>

  /** Many people changed as one. */
  batches: Batches
  handOvers: HandOvers

  /** Takes in changes to what the owner makes, each by itself. */
  takeChanges(changes: readonly Change[]): Promise<ChangeOutcome[]>
  /** The same, whole or not at all: where one is not taken, none is, and its outcome tells why. */
  takeChangesTogether(changes: readonly Change[]): Promise<ChangeOutcome[]>
  /** Objects changed after a revision. Null when `mark` is not the one that this history has there. */
  objectsAfter(after: number, mark: string | null, limit: number): Promise<Page<Kept> | null>
  latestChange(): Promise<number>
  picture(id: string): Promise<Picture | null>
  keepPicture(picture: Picture): Promise<PictureResult>
  /** What visitors can meet, found by id. Kept in memory: read on every sign-up. */
  published(): Published

  /** Continues an empty or partly refilled journal from a copy of it. Entries must follow the newest one here. */
  refill(journal: JournalId, entries: readonly Entry[]): Promise<RefillResult>
  /** Takes in again what a copy of the journal has after `common`, its last entry in common with this one. */
  recover(common: number, entries: readonly Entry[]): Promise<Recovered>
  /** Gives an empty store all of a workspace at once; one that holds anything stays as it is. Resolves with whether it did. */
  seed(workspace: Workspace): Promise<boolean>

  /** Writes a whole and consistent copy of the store into a file that is not there yet, while sign-ups go on. */
  /** The mark of an entry; null where there is none. */
  markAt(n: number): Promise<string | null>
  copyTo(file: string): Promise<void>
  /** Calls `listener` after every commit that brought news, until the returned function is called. */
  onNews(listener: () => void): () => void
  /** The same whenever mail may have been queued, to made-up people too. */
  onMail(listener: () => void): () => void
  /** Throws when sign-ups cannot be stored. */
  checkHealth(): Promise<void>
  close(): Promise<void>
}

/** With less room than this, the next sign-ups might find none. */
export const LEAST_ROOM_BYTES = 1024 * 1024
