/** How a transaction that several writes share is begun and ended. */
export interface GroupStatements {
  /**
   * @param abouts what each piece of work is about, where all are done together; null where each is undone by itself if it
   * fails
   */
  begin(abouts: readonly unknown[] | null): unknown
  savepoint(): unknown
  /** Of the savepoint. */
  release(): unknown
  rollbackOne(): unknown
  /** @throws DoubtfulCommit where it may have been committed all the same */
  commit(): unknown
  rollback(): unknown
}

/** A commit whose answer did not come: what was written may be there, so it is not written again. */
export class DoubtfulCommit extends Error {
  constructor(cause: unknown) {
    super('The connection was lost while it was committed.', { cause })
  }
}

/** The same over a database that prepares statements. */
export function groupStatements(database: { prepare(sql: string): { run(): unknown } }): GroupStatements {
  const prepared = (sql: string) => {
    const statement = database.prepare(sql)
    return () => statement.run()
  }
  return {
    begin: prepared('BEGIN IMMEDIATE'),
    savepoint: prepared('SAVEPOINT one'),
    release: prepared('RELEASE one'),
    rollbackOne: prepared('ROLLBACK TO one'),
    commit: prepared('COMMIT'),
    rollback: prepared('ROLLBACK'),
  }
}

interface Waiting {
  /** Resolves with what delivers its result. */
  work: () => Promise<() => void>
  about: unknown
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

  constructor(
    private readonly statements: GroupStatements,
    /** Called after each commit. @param writes how many pieces of work shared it */
    private readonly committed: (writes: number) => void,
  ) {}

  /**
   * Runs `work` inside the next shared transaction and resolves with its result once that is on disk.
   *
   * @param about what it is about, so that it can be looked up with that of others
   */
  run<T>(work: () => Promise<T>, about: unknown = null): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      const deliverable = async () => {
        const result = await work()
        return () => resolve(result)
      }
      this.waiting.push({ work: deliverable, about, reject })
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
    if (isCommitted) this.committed(group.length)
    for (const tell of settle) tell()
    this.schedule()
  }

  /** Without savepoints, which cost two statements each; null when anything threw, and nothing of it is left. */
  private async together(group: readonly Waiting[]): Promise<Done | null> {
    const { statements } = this
    try {
      await statements.begin(group.map(({ about }) => about))
      const settle: (() => void)[] = []
      for (const { work } of group) settle.push(await work())
      await statements.commit()
      return { settle, isCommitted: true }
    } catch (error) {
      await this.undo()
      return error instanceof DoubtfulCommit ? refused(group, error) : null
    }
  }

  private async oneByOne(group: readonly Waiting[]): Promise<Done> {
    const { statements } = this
    const settle: (() => void)[] = []
    try {
      await statements.begin(null)
      for (const { work, reject } of group) {
        await statements.savepoint()
        try {
          const deliver = await work()
          await statements.release()
          settle.push(deliver)
        } catch (error) {
          await statements.rollbackOne()
          await statements.release()
          settle.push(() => reject(error))
        }
      }
      await statements.commit()
      return { settle, isCommitted: true }
    } catch (error) {
      await this.undo()
      return refused(group, error)
    }
  }

  private async undo(): Promise<void> {
    try {
      await this.statements.rollback()
    } catch {
      // The failed statement has already ended the transaction; what failed is told, and not this.
    }
  }
}

const refused = (group: readonly Waiting[], error: unknown): Done => ({
  settle: group.map((one) => () => one.reject(error)),
  isCommitted: false,
})
