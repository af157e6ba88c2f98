import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { Kysely, Migrator, SqliteDialect, type Compilable } from 'kysely'
import { sameContent } from '#core/form'
import type { JournalId, MemberId } from '#core/ids'
import type { Entry, NewEntry, Verdict } from '#core/journal'
import { affectedMember, applyToMember, decide, type Member } from '#core/list'
import { arrivalOf } from '#core/signup'
import { checkReferences, type Published } from '#core/workspace'
import { newId } from '../random'
import { GroupCommit } from './group-commit'
import { LibsqlDatabase, type Statement } from './libsql'
import { migrations } from './migrations'
import { type GrowingIndex, indexPublished, versionKey } from './published-index'
import { type CommandOutcome, type PublishResult, type RefillResult, RETRY_WINDOW_MS, type Store } from './store'
import type { Tables } from './tables'

/** Another process has the data folder open: two receivers on one journal would tear it apart. */
export class DataFolderInUse extends Error {
  constructor(folder: string) {
    super(`The data folder ${folder} is in use by another receiver. Stop that one, or set ASKBOX_DATA to another folder.`)
  }
}

/**
 * The store in one SQLite file. Write-ahead log with full sync: what was answered survives the process and
 * the power. The file is held in exclusive mode, which is the lock on the data folder and ends with the
 * process, however it ends.
 *
 * @param now the clock, in milliseconds since 1970
 * @throws DataFolderInUse
 */
export async function openEmbeddedStore(folder: string, now: () => number): Promise<Store> {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const database = new LibsqlDatabase(join(folder, 'askbox.sqlite'))
  try {
    database.exec('PRAGMA locking_mode = EXCLUSIVE; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;')
    // Exclusive mode takes its lock with the first write.
    database.exec('BEGIN IMMEDIATE; COMMIT;')
  } catch (error) {
    database.close()
    if ((error as { code?: string }).code === 'SQLITE_BUSY') throw new DataFolderInUse(folder)
    throw error
  }
  const kysely = new Kysely<Tables>({ dialect: new SqliteDialect({ database: { close: () => {}, prepare: (sql) => database.prepare(sql) } }) })
  const { error } = await new Migrator({ db: kysely, provider: { getMigrations: async () => migrations } }).migrateToLatest()
  if (error !== undefined) throw error
  return new EmbeddedStore(database, kysely, now)
}

class EmbeddedStore implements Store {
  journalId: JournalId
  private readonly statements: Statements
  private readonly commits: GroupCommit
  private readonly listeners = new Set<() => void>()
  private index: GrowingIndex = indexPublished()
  private newest = 0
  private retriesPrunedAt = 0

  constructor(
    private readonly database: LibsqlDatabase,
    kysely: Kysely<Tables>,
    private readonly now: () => number,
  ) {
    this.statements = prepareStatements(database, kysely)
    this.commits = new GroupCommit(database, {
      committed: () => {
        for (const listener of this.listeners) listener()
      },
      undone: () => this.readMemory(),
    })
    this.journalId = this.makeJournalId()
    this.readMemory()
  }

  signUp: Store['signUp'] = (signUp, retryKey) =>
    this.commits.run(() => {
      const now = this.now()
      const repeated = this.statements.retry.get(retryKey, now - RETRY_WINDOW_MS)
      if (repeated !== undefined) return { verdict: repeated.verdict as Verdict, repeated: true }
      const member = signUp.email === null ? null : this.withAddress(signUp.version.list, signUp.email.compared)
      const arrival = arrivalOf(signUp, {
        member,
        newMember: newId(),
        newArrival: newId(),
        at: new Date(now).toISOString(),
      })
      this.append(arrival, member)
      this.statements.remember.run(retryKey, now, arrival.verdict)
      this.pruneRetries(now)
      return { verdict: arrival.verdict, repeated: false }
    })

  carryOut: Store['carryOut'] = (commands) =>
    Promise.all(
      commands.map((command) =>
        this.commits.run((): CommandOutcome => {
          const known = this.statements.outcome.get(command.id)
          if (known !== undefined) return JSON.parse(String(known.outcome)) as CommandOutcome
          const decision = decide(
            command,
            { member: this.member(command.member), withAddress: (compared) => this.withAddress(command.list, compared) },
            new Date(this.now()).toISOString(),
          )
          const outcome: CommandOutcome = decision.ok
            ? { id: command.id, ok: true, n: this.append(decision.entry) }
            : { id: command.id, ok: false, problem: decision.problem }
          this.statements.keepOutcome.run(command.id, JSON.stringify(outcome))
          return outcome
        }),
      ),
    )

  entriesAfter: Store['entriesAfter'] = async (after, limit) =>
    this.statements.entriesAfter.all(after, limit).map((row) => ({ n: Number(row.n), ...(JSON.parse(String(row.body)) as NewEntry) }) as Entry)

  latest = () => this.newest

  publish: Store['publish'] = (published) =>
    this.commits.run((): PublishResult => {
      const next = this.index.with(published)
      const broken = checkReferences(next.all())
      if (broken !== null) return { ok: false, code: 'broken-reference', message: `${broken.place} ${broken.message}.` }
      for (const version of published.versions) {
        const known = this.index.version(version.form, version.number)
        if (known !== undefined && !(sameContent(known.content, version.content) && known.list === version.list)) {
          return { ok: false, code: 'version-taken', message: `Version ${version.number} of this form is published already, with other content.` }
        }
      }
      for (const [kind, id, body] of rowsOf(published)) {
        const keep = kind === 'version' ? this.statements.keepVersion : this.statements.keepPublished
        keep.run(kind, id, JSON.stringify(body))
      }
      this.index = next
      return { ok: true }
    })

  published = () => this.index

  refill: Store['refill'] = (journal, entries) =>
    this.commits.run((): RefillResult => {
      if (this.newest > 0 && journal !== this.journalId) {
        return { ok: false, code: 'not-empty', message: 'This receiver already keeps another history.' }
      }
      if (entries.some((entry, at) => entry.n !== this.newest + 1 + at)) {
        return { ok: false, code: 'gap', message: `The next entry must be number ${this.newest + 1}, and none may be missing.` }
      }
      if (journal !== this.journalId) {
        this.statements.keepIdentity.run('journal-id', journal)
        this.journalId = journal
      }
      for (const { n: _, ...entry } of entries) this.append(entry as NewEntry)
      return { ok: true, latest: this.newest }
    })

  onNews: Store['onNews'] = (listener) => {
    this.listeners.add(listener)
    return () => this.listeners.delete(listener)
  }

  checkHealth: Store['checkHealth'] = () => {
    this.statements.newest.get()
  }

  close: Store['close'] = async () => {
    await this.commits.run(() => undefined)
    this.database.close()
  }

  /** Appends one entry and brings its member, looked up where not given, up to date. Only inside a commit. */
  private append(entry: NewEntry, known?: Member | null): number {
    const n = this.statements.append.run(JSON.stringify(entry)).lastInsertRowid
    const numbered = { n, ...entry } as Entry
    const id = affectedMember(numbered)
    if (id !== null) {
      const member = applyToMember(known === undefined ? this.member(id) : known, numbered)
      if (member !== null) this.statements.keepMember.run(member.id, member.list, member.email.compared, JSON.stringify(member))
    }
    this.newest = n
    return n
  }

  private member(id: MemberId): Member | null {
    return parseMember(this.statements.member.get(id))
  }

  private withAddress(list: string, compared: string): Member | null {
    return parseMember(this.statements.withAddress.get(list, compared))
  }

  private pruneRetries(now: number): void {
    if (now - this.retriesPrunedAt < RETRY_WINDOW_MS) return
    this.retriesPrunedAt = now
    this.statements.forget.run(now - RETRY_WINDOW_MS)
  }

  private readPublished(): Published {
    const rows = this.statements.published.all()
    const of = <T>(kind: string): T[] => rows.filter((row) => row.kind === kind).map((row) => JSON.parse(String(row.body)) as T)
    return { sites: of('site'), lists: of('list'), forms: of('form'), versions: of('version'), spots: of('spot'), pictures: of('picture') }
  }

  /** What is kept in memory, as the file has it. */
  private readMemory(): void {
    this.newest = Number(this.statements.newest.get()?.n ?? 0)
    this.index = indexPublished(this.readPublished())
    this.journalId = String(this.statements.identity.get('journal-id')?.value) as JournalId
  }

  private makeJournalId(): JournalId {
    if (this.statements.identity.get('journal-id') === undefined) this.statements.keepIdentity.run('journal-id', newId<JournalId>())
    return String(this.statements.identity.get('journal-id')?.value) as JournalId
  }
}

type Statements = ReturnType<typeof prepareStatements>

/** Each query is written with Kysely once, then prepared: building it anew for every sign-up costs more than running it. */
function prepareStatements(database: LibsqlDatabase, kysely: Kysely<Tables>) {
  const prepare = (query: Compilable): Statement => database.prepare(query.compile().sql)
  const any = '' as never
  return {
    newest: prepare(kysely.selectFrom('journal').select((of) => of.fn.max('n').as('n'))),
    append: prepare(kysely.insertInto('journal').values({ body: any })),
    entriesAfter: prepare(kysely.selectFrom('journal').selectAll().where('n', '>', any).orderBy('n').limit(any)),
    member: prepare(kysely.selectFrom('members').select('body').where('id', '=', any)),
    withAddress: prepare(kysely.selectFrom('members').select('body').where('list', '=', any).where('compared', '=', any)),
    keepMember: prepare(
      kysely
        .insertInto('members')
        .values({ id: any, list: any, compared: any, body: any })
        .onConflict((conflict) =>
          conflict.column('id').doUpdateSet((of) => ({ compared: of.ref('excluded.compared'), body: of.ref('excluded.body') })),
        ),
    ),
    retry: prepare(kysely.selectFrom('retries').select('verdict').where('key', '=', any).where('at', '>=', any)),
    remember: prepare(
      kysely
        .insertInto('retries')
        .values({ key: any, at: any, verdict: any })
        .onConflict((conflict) => conflict.column('key').doUpdateSet((of) => ({ at: of.ref('excluded.at'), verdict: of.ref('excluded.verdict') }))),
    ),
    forget: prepare(kysely.deleteFrom('retries').where('at', '<', any)),
    outcome: prepare(kysely.selectFrom('commands').select('outcome').where('id', '=', any)),
    keepOutcome: prepare(kysely.insertInto('commands').values({ id: any, outcome: any })),
    published: prepare(kysely.selectFrom('published').selectAll()),
    keepPublished: prepare(
      kysely
        .insertInto('published')
        .values({ kind: any, id: any, body: any })
        .onConflict((conflict) => conflict.columns(['kind', 'id']).doUpdateSet((of) => ({ body: of.ref('excluded.body') }))),
    ),
    keepVersion: prepare(kysely.insertInto('published').values({ kind: any, id: any, body: any }).onConflict((conflict) => conflict.doNothing())),
    identity: prepare(kysely.selectFrom('identity').select('value').where('key', '=', any)),
    keepIdentity: prepare(
      kysely
        .insertInto('identity')
        .values({ key: 'journal-id', value: any })
        .onConflict((conflict) => conflict.column('key').doUpdateSet((of) => ({ value: of.ref('excluded.value') }))),
    ),
  }
}

function parseMember(row: Record<string, unknown> | undefined): Member | null {
  return row === undefined ? null : (JSON.parse(String(row.body)) as Member)
}

function rowsOf(published: Published): [kind: string, id: string, body: unknown][] {
  return [
    ...published.sites.map((site): [string, string, unknown] => ['site', site.id, site]),
    ...published.lists.map((list): [string, string, unknown] => ['list', list.id, list]),
    ...published.forms.map((form): [string, string, unknown] => ['form', form.id, form]),
    ...published.versions.map((version): [string, string, unknown] => ['version', versionKey(version), version]),
    ...published.spots.map((spot): [string, string, unknown] => ['spot', spot.id, spot]),
    ...published.pictures.map((picture): [string, string, unknown] => ['picture', picture.id, picture]),
  ]
}
