/** What the group commit needs of a database: SQL texts carried out at once. */
export interface Transactional {
  exec(sql: string): void
}

interface Waiting {
  work: () => unknown
  resolve: (value: never) => void
  reject: (reason: unknown) => void
}

/**
 * Writes that share one commit, and so one wait for the disk. Each piece of work runs in a savepoint of its
 * own: one that throws is undone alone and rejects alone. Nobody is told of success before the commit.
 */
export class GroupCommit {
  private waiting: Waiting[] = []
  private isScheduled = false

  constructor(
    private readonly database: Transactional,
    /** `committed` after each commit; `undone` whenever work was rolled back, so that what is kept in memory can be read anew. */
    private readonly told: { committed(): void; undone(): void },
  ) {}

  /** Runs `work` inside the next shared transaction and resolves with its result once that is on disk. */
  run<T>(work: () => T): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.waiting.push({ work, resolve: resolve as (value: never) => void, reject })
      if (this.isScheduled) return
      this.isScheduled = true
      // Requests already read by this turn of the event loop join the same commit.
      setImmediate(() => this.flush())
    })
  }

  private flush(): void {
    this.isScheduled = false
    const group = this.waiting
    this.waiting = []
    const settle: (() => void)[] = []
    try {
      this.database.exec('BEGIN IMMEDIATE')
      for (const { work, resolve, reject } of group) {
        this.database.exec('SAVEPOINT one')
        try {
          const result = work()
          this.database.exec('RELEASE one')
          settle.push(() => resolve(result as never))
        } catch (error) {
          this.database.exec('ROLLBACK TO one')
          this.database.exec('RELEASE one')
          this.told.undone()
          settle.push(() => reject(error))
        }
      }
      this.database.exec('COMMIT')
    } catch (error) {
      try {
        this.database.exec('ROLLBACK')
      } catch {
        // The failed statement has already ended the transaction.
      }
      this.told.undone()
      for (const { reject } of group) reject(error)
      return
    }
    this.told.committed()
    for (const tell of settle) tell()
  }
}
