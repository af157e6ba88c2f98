import type { RawDatabase } from './raw'

/** A storage engine. Every engine passes `tests/store-suite.ts`. */
export interface Engine<Queries> {
  /**
   * Runs `work` whole or not at all, and resolves with its result once that is on disk. Work waits for nothing but its
   * transaction, and comes to the same when it is done again.
   *
   * @param about what it is about: a server looks that up for all that share a commit at once
   */
  run<T>(work: (transaction: Queries) => Promise<T>, about?: unknown): Promise<T>
  /** The state as of the last commit; only what reads is to be called. */
  readonly now: Queries
  /** Whether other receivers may have the same store open. */
  readonly isShared: boolean
  /** The database itself. */
  raw(): RawDatabase
  /** Bytes that the disk still takes; null where that cannot be told. */
  room(): number | null
  /** Writes a whole copy, as of a commit made meanwhile, into a file that is not there yet. Sign-ups go on. */
  copyTo(file: string): Promise<void>
  /**
   * How often any of some texts stands in what is stored, byte for byte, what is not in use any more included; null where
   * that cannot be looked at.
   */
  occurrences(texts: readonly string[]): Promise<number | null>
  /** @param listener is told how many pieces of work shared the commit */
  onCommit(listener: (writes: number) => void): void
  /** Connections to a server, by state; null where there is none. */
  connections(): { total: number; idle: number; waiting: number } | null
  /** Called after another process committed to the same store, so that caches can be read anew. */
  onCommitElsewhere(listener: () => void): void
  close(): Promise<void>
}

/**
 * The same queries, asked between two writes: what is not committed yet is nobody's to see.
 *
 * @param idle resolves when the write that goes on is over; null while none does
 */
export function readBetween<Queries extends object>(queries: Queries, idle: () => Promise<void> | null): Queries {
  const methods = Object.entries(queries) as [string, (...values: unknown[]) => Promise<unknown>][]
  return Object.fromEntries(
    methods.map(([name, method]) => [
      name,
      async (...values: unknown[]) => {
        for (let busy = idle(); busy !== null; busy = idle()) await busy
        return method(...values)
      },
    ]),
  ) as Queries
}
