/** What the group commit needs of a database: statements prepared once. */
export interface Transactional {
  prepare(sql: string): { run(): unknown }
}

interface Waiting {
  work: () => Promise<unknown>
  resolve: (value: never) => void
  reject: (reason: unknown) => void
}

/** Outcome of a group commit, to be delivered one by one. */
interface Done {
  settle: (() => void)[]
  isCommitted: boolean
}

/**
 * Writes that share one commit, and so one wait for the disk. Each piece of work is done before the next begins. Work
 * that throws is undone alone and rejects alone: where some does, all of it is undone and done once more, each in a
 * savepoint of its own. So work has to come to the same when it is done again. Nobody is told of success before the commit.
 */
export class GroupCommit {
  private waiting: Waiting[] = []
  private isScheduled = false
  /** Ends with the group that is being written. */
  private writing: Promise<void> | null = null

  private readonly begin: { run(): unknown }
  private readonly savepoint: { run(): unknown }
  private readonly release: { run(): unknown }
  private readonly rollbackOne: { run(): unknown }
  private readonly commit: { run(): unknown }
  private readonly rollback: { run(): unknown }

  constructor(
    database: Transactional,
    /** Called after each commit. */
    private readonly committed: () => void,
  ) {
    this.begin = database.prepare('BEGIN IMMEDIATE')
    this.savepoint = database.prepare('SAVEPOINT one')
    this.release = database.prepare('RELEASE one')
    this.rollbackOne = database.prepare('ROLLBACK TO one')
    this.commit = database.prepare('COMMIT')
    this.rollback = database.prepare('ROLLBACK')
  }

  /** Runs `work` inside the next shared transaction and resolves with its result once that is on disk. */
  run<T>(work: () => Promise<T>): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      this.waiting.push({ work, resolve: resolve as (value: never) => void, reject })
      this.schedule()
    })
  }

  /** Resolves when the group that is being written is committed or undone; null while none is. */
  idle(): Promise<void> | null {
    return this.writing
  }

  /** Requests already read by this turn of the event loop join the same commit. */
  private schedule(): void {
    if (this.isScheduled || this.writing !== null || this.waiting.length === 0) return
    this.isScheduled = true
    setImmediate(() => {
      this.isScheduled = false
      const group = this.waiting
      this.waiting = []
      this.writing = this.write(group)
    })
  }

  private async write(group: readonly Waiting[]): Promise<void> {
    const { settle, isCommitted } = (await this.together(group)) ?? (await this.oneByOne(group))
    this.writing = null
    // Out of reach of what undoes: what is on disk by now is never done again, whatever a listener does.
    if (isCommitted) this.committed()
    for (const tell of settle) tell()
    this.schedule()
  }

  /** Without savepoints, which cost two statements each; null when anything threw, and nothing of it is left. */
  private async together(group: readonly Waiting[]): Promise<Done | null> {
    try {
      this.begin.run()
      const settle: (() => void)[] = []
      for (const { work, resolve } of group) {
        const result = await work()
        settle.push(() => resolve(result as never))
      }
      this.commit.run()
      return { settle, isCommitted: true }
    } catch {
      this.undo()
      return null
    }
  }

  private async oneByOne(group: readonly Waiting[]): Promise<Done> {
    const settle: (() => void)[] = []
    try {
      this.begin.run()
      for (const { work, resolve, reject } of group) {
        this.savepoint.run()
        try {
          const result = await work()
          this.release.run()
          settle.push(() => resolve(result as never))
        } catch (error) {
          this.rollbackOne.run()
          this.release.run()
          settle.push(() => reject(error))
        }
      }
      this.commit.run()
      return { settle, isCommitted: true }
    } catch (error) {
      this.undo()
      return { settle: group.map((one) => () => one.reject(error)), isCommitted: false }
    }
  }

  private undo(): void {
    try {
      this.rollback.run()
    } catch {
      // The failed statement has already ended the transaction.
    }
  }
}
