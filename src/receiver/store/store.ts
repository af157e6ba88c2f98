import type { JournalId } from '#core/ids'
import type { Command, Entry, Verdict } from '#core/journal'
import type { Refusal } from '#core/list'
import type { SignUp } from '#core/signup'
import type { Published } from '#core/workspace'

export interface SignUpResult {
  verdict: Verdict
  /** True when this was a retry and the answer of the first try is repeated; nothing new was stored. */
  repeated: boolean
}

/** What became of a command. `n` is the journal entry that carried it out. */
export type CommandOutcome = { id: Command['id'] } & ({ ok: true; n: number } | { ok: false; problem: Refusal })

export type PublishResult = { ok: true } | { ok: false; code: 'version-taken' | 'broken-reference'; message: string }

export type RefillResult = { ok: true; latest: number } | { ok: false; code: 'not-empty' | 'gap' | 'broken-reference'; message: string }

/**
 * The receiver's memory. Every promise of a writing method resolves only after its change is on disk, and
 * rejects when it could not be stored. Any engine behind this door has to pass `tests/store-suite.ts`.
 */
export interface Store {
  readonly journalId: JournalId
  /** Stores one sign-up, in one order with all others. `retryKey` names who sent exactly what. */
  signUp(signUp: SignUp, retryKey: string): Promise<SignUpResult>
  /** Carries out each command at most once, however often it is sent. */
  carryOut(commands: readonly Command[]): Promise<CommandOutcome[]>
  /** Entries with numbers above `after`, oldest first. */
  entriesAfter(after: number, limit: number): Promise<Entry[]>
  /** Number of the newest entry, 0 for an empty journal. */
  latest(): number
  /** Takes in what the owner publishes. Objects are replaced by id; versions never change once taken. */
  publish(published: Published): Promise<PublishResult>
  /** All that is published. Kept in memory: read on every sign-up. */
  published(): PublishedIndex
  /** Continues an empty or partly refilled journal from a copy of it. Entries must follow the newest one here. */
  refill(journal: JournalId, entries: readonly Entry[]): Promise<RefillResult>
  /** Calls `listener` after every commit that brought news, until the returned function is called. */
  onNews(listener: () => void): () => void
  /** Throws when sign-ups cannot be stored. */
  checkHealth(): void
  close(): Promise<void>
}

/** The published things, found by id. */
export interface PublishedIndex {
  all(): Published
  spot(id: string): Published['spots'][number] | undefined
  site(id: string): Published['sites'][number] | undefined
  picture(id: string): Published['pictures'][number] | undefined
  version(form: string, number: number): Published['versions'][number] | undefined
  latestVersion(form: string): Published['versions'][number] | undefined
}

/** How long the same bytes from the same address repeat the first answer: a double click, a network's retry. */
export const RETRY_WINDOW_MS = 30_000
