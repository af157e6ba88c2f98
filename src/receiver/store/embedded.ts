import { chmodSync, closeSync, existsSync, mkdirSync, openSync, readdirSync, rmSync, statfsSync } from 'node:fs'
import { join } from 'node:path'
import { type Compilable, Kysely, Migrator, sql, SqliteDialect } from 'kysely'
import type { JournalId, ListId, MemberId } from '#core/ids'
import type { Entry, NewEntry } from '#core/journal'
import type { Member } from '#core/list'
import type { Picture } from '#core/picture'
import type { Body, Kind } from '#core/sync'
import type { CommandOutcome } from '../ledger/ledger'
import { type Engine, LATER_TURN, type MailState, type QueuedMail, type StoredObject, type Transaction } from './engine'
import { copyDatabase } from './copy'
import { GroupCommit } from './group-commit'
import { LibsqlDatabase, type Statement } from './libsql'
import { migrations } from './migrations'
import type { Tables } from './tables'

const FILE = 'askbox.sqlite'
/** What copies are called while they are made and handed out. */
const COPY = /^copy-[\w-]+\.sqlite(?:-\w+)?$/
/** Members' ids and addresses have no order, so each sign-up meets other pages of their indexes. */
const CACHE_KB = 32 * 1024
/**
 * Written back into the file after so many pages (16 MB) instead of SQLite's usual 1,000: each sign-up changes some ten,
 * and most of them change again soon.
 */
const CHECKPOINT_PAGES = 4_000

/** Another process has the data folder open: two receivers on one journal would tear it apart. */
export class DataFolderInUse extends Error {
  constructor(folder: string) {
    super(
      `The data folder ${folder} is in use by another receiver. Stop that one, or set ASKBOX_DATA to another folder.`,
    )
  }
}

/**
 * The engine in one SQLite file. Write-ahead log with full sync: what was answered survives the process and
 * the power. The file is held in exclusive mode, which is the lock on the data folder and ends with the
 * process, however it ends. Its files are their owner's alone: they hold people's addresses.
 *
 * @param copyThread built program that finishes copies; see `copyDatabase`
 * @throws DataFolderInUse
 */
export async function openEmbeddedEngine(folder: string, copyThread?: string): Promise<Engine> {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = join(folder, FILE)
  const database = new LibsqlDatabase(file)
  try {
    database.exec('PRAGMA locking_mode = EXCLUSIVE; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;')
    database.exec(`PRAGMA cache_size = -${CACHE_KB}; PRAGMA wal_autocheckpoint = ${CHECKPOINT_PAGES};`)
    // Exclusive mode takes its lock with the first write.
    database.exec('BEGIN IMMEDIATE; COMMIT;')
    // Of a process that ended while it copied: they hold everybody's addresses.
    for (const name of readdirSync(folder)) if (COPY.test(name)) rmSync(join(folder, name), { force: true })
    for (const one of [file, `${file}-wal`, `${file}-shm`]) if (existsSync(one)) chmodSync(one, 0o600)
  } catch (error) {
    database.close()
    if ((error as { code?: string }).code === 'SQLITE_BUSY') throw new DataFolderInUse(folder)
    throw error
  }
  const kysely = new Kysely<Tables>({
    dialect: new SqliteDialect({ database: { close: () => {}, prepare: (sql) => database.prepare(sql) } }),
  })
  try {
    await migrate(database, kysely)
  } catch (error) {
    database.close()
    throw error
  }
  return embeddedEngine(folder, database, kysely, copyThread)
}

/** All the steps that are missing, or none: a start that is interrupted leaves the file as it was. */
async function migrate(database: LibsqlDatabase, kysely: Kysely<Tables>): Promise<void> {
  database.exec('BEGIN IMMEDIATE')
  const { error } = await new Migrator({
    db: kysely,
    provider: { getMigrations: async () => migrations },
    // Their names begin with numbers; the usual comparison loads a language's rules, a twentieth of a start.
    nameComparator: (one, other) => (one < other ? -1 : 1),
  }).migrateToLatest()
  if (error === undefined) {
    database.exec('COMMIT')
    return
  }
  try {
    database.exec('ROLLBACK')
  } catch {
    // The failed statement has already ended the transaction.
  }
  throw error
}

function embeddedEngine(
  folder: string,
  database: LibsqlDatabase,
  kysely: Kysely<Tables>,
  copyThread: string | undefined,
): Engine {
  const file = join(folder, FILE)
  let source: number | null = null
  let copying: Promise<void> = Promise.resolve()
  const transaction = transactionOver(prepareStatements(database, kysely))
  const told = { committed: () => {}, undone: () => {} }
  const commits = new GroupCommit(database, { committed: () => told.committed(), undone: () => told.undone() })
  return {
    run: (work) => commits.run(() => work(transaction)),
    now: transaction,
    room() {
      const { bavail, bsize } = statfsSync(folder)
      return bavail * bsize
    },
    copyTo(target) {
      // Kept open until the store is closed: closing it would end the lock on the data folder.
      source ??= openSync(file, 'r')
      const opened = source
      const copy = copying.then(async () => {
        database.exec('PRAGMA wal_autocheckpoint = 0')
        try {
          await copyDatabase(opened, `${file}-wal`, target, copyThread)
        } finally {
          database.exec(`PRAGMA wal_autocheckpoint = ${CHECKPOINT_PAGES}`)
        }
      })
      copying = copy.catch(() => {})
      return copy
    },
    onCommit: (listener) => (told.committed = listener),
    onUndo: (listener) => (told.undone = listener),
    async close() {
      await copying
      await commits.run(() => undefined)
      database.close()
      if (source !== null) closeSync(source)
    },
  }
}

type Row = Record<string, unknown>
const parsed = <T>(text: unknown) => JSON.parse(String(text)) as T
const bodyOf = <T>(row: Row | undefined): T | null => (row === undefined ? null : parsed<T>(row.body))

function transactionOver(statements: Statements): Transaction {
  const entryOf = (row: Row) => ({
    entry: { n: Number(row.n), ...parsed<NewEntry>(row.body) } as Entry,
    mark: String(row.mark),
  })
  const objectOf = (row: Row): StoredObject => ({
    kind: row.kind as Kind,
    key: String(row.key),
    revision: Number(row.revision),
    body: parsed<Body>(row.body),
    isDeleted: Number(row.deleted) === 1,
  })
  const mailOf = (row: Row): QueuedMail => ({
    id: String(row.id),
    space: String(row.space),
    list: row.list as QueuedMail['list'],
    member: row.member as QueuedMail['member'],
    kind: row.kind as QueuedMail['kind'],
    recipient: String(row.recipient),
    compared: String(row.compared),
    inbox: String(row.inbox),
    turn: Number(row.turn),
    queued: Number(row.queued),
    due: Number(row.due),
    state: row.state as MailState,
    attempts: Number(row.attempts),
    said: String(row.said),
    sent: Number(row.sent),
  })
  const keepMail = (mail: QueuedMail) =>
    void statements.keepMail.run(
      mail.id,
      mail.space,
      mail.list,
      mail.member,
      mail.kind,
      mail.recipient,
      mail.compared,
      mail.inbox,
      mail.turn,
      mail.queued,
      mail.due,
      mail.state,
      mail.attempts,
      mail.said,
      mail.sent,
    )
  const countOf = (row: Row | undefined) => Number(row?.count ?? 0)
  const newestOf = (row: Row | undefined) => ({ n: Number(row?.n ?? 0), mark: String(row?.mark ?? '') })
  return {
    identity: () => (statements.identity.get('journal-id')?.value as JournalId | undefined) ?? null,
    keepIdentity: (id) => void statements.keepIdentity.run('journal-id', id),

    newestEntry: () => newestOf(statements.newestEntry.get()),
    append: (n, entry, mark) => void statements.append.run(n, JSON.stringify(entry), mark),
    entriesAfter: (n, limit) => statements.entriesAfter.all(n, limit).map(entryOf),
    markAt: (n) => (statements.markAt.get(n)?.mark as string | undefined) ?? null,

    member: (id) => bodyOf<Member>(statements.member.get(id)),
    memberWithAddress: (list, compared) => bodyOf<Member>(statements.memberWithAddress.get(list, compared)),
    keepMember: (member) =>
      void statements.keepMember.run(
        member.id,
        member.list,
        member.email.compared,
        JSON.stringify(member),
        member.list,
      ),

    keepRetry: (n, key) => void statements.keepRetry.run(n, key),
    forgetRetries: (n) => void statements.forgetRetries.run(n),
    retries: () => statements.retries.all().map((row) => ({ key: String(row.key), entry: entryOf(row).entry })),

    bounces: () => statements.bounces.all().map((row) => entryOf(row).entry),

    partOfSpace: (space, key) => bodyOf<unknown>(statements.partOfSpace.get(space, key)),
    keepPartOfSpace: (space, key, value) => void statements.keepPartOfSpace.run(space, key, JSON.stringify(value)),
    partsOfSpace: (space, beginning) =>
      statements.partsOfSpace.all(space, beginning, `${beginning}\uffff`).map((row) => parsed<unknown>(row.body)),
    dropSpace(space) {
      if (space === null) {
        statements.dropSpaces.run()
        statements.dropMailsOfSpaces.run()
      } else {
        statements.dropSpace.run(space)
        statements.dropMailsOfSpace.run(space)
      }
    },

    queueMail({ id, space, list, member, kind, recipient, compared, inbox, turn, queued, due }, most) {
      const { count = Number.MAX_SAFE_INTEGER, since = 0 } = most ?? {}
      const values = [id, space, list, member, kind, recipient, compared, inbox, turn, queued, due, inbox, since, count]
      return statements.queueMail.run(...values).changes > 0
    },
    keepMail: (mail) => keepMail(mail),
    mail: (id) => {
      const row = statements.mail.get(id)
      return row === undefined ? null : mailOf(row)
    },
    dueMails(now, limit) {
      const soon = statements.dueMails.all(now, limit).map(mailOf)
      return soon.length === limit
        ? soon
        : [...soon, ...statements.dueLaterMails.all(now, limit - soon.length).map(mailOf)]
    },
    nextMailDue() {
      const row = statements.nextMailDue.get()
      return row === undefined ? null : Number(row.due)
    },
    mailsInHand: () => statements.mailsInHand.all().map(mailOf),
    mailsInState: (state, limit) => statements.mailsInState.all(state, limit).map(mailOf),
    mailsOfSpace: (space) => statements.mailsOfSpace.all(space).map(mailOf),
    countMails: (state) => countOf(statements.countMails.get(state)),
    mailsSentSince: (time) =>
      statements.mailsSentSince.all(time).map((row) => ({ at: Number(row.at), count: Number(row.count) })),
    forgetMails: (before) => void statements.forgetMails.run(before),
    hurryMails: (now) => void statements.hurryMails.run(now, now),
    listsWithWaiting: () => statements.listsWithWaiting.all().map((row) => row.list as ListId),
    waitingSince: (list, before) =>
      statements.waitingSince.all(list, new Date(before).toISOString()).map((row) => row.id as MemberId),
    downloadsOf: (member) => Number(statements.downloadsOf.get(member)?.times ?? 0),
    countDownload: (member) => void statements.countDownload.run(member),
    lastWritten() {
      const [newest] = statements.newestBody.all()
      const entry = newest === undefined ? 0 : Date.parse(parsed<NewEntry>(newest.body).at)
      const touched = Number(statements.identity.get('touched')?.value ?? 0)
      return Math.max(entry, touched) || null
    },
    rankOf(member) {
      const row = statements.rankOf.get(member)
      return row === undefined ? null : Number(row.rank)
    },
    highestRank: (list) => Number(statements.highestRank.get(list)?.rank ?? 0),
    membersJoinedOn: (list, day) =>
      statements.membersJoinedOn.all(list, `${day}%`).map((row) => parsed<Member>(row.body)),
    outboxSettings: () => (statements.identity.get('outbox')?.value as string | undefined) ?? null,
    keepOutboxSettings: (json) => void statements.keepIdentity.run('outbox', json),

    outcome(id) {
      const row = statements.outcome.get(id)
      return row === undefined ? null : parsed<CommandOutcome>(row.outcome)
    },
    keepOutcome: (id, at, outcome) => void statements.keepOutcome.run(id, JSON.stringify(outcome), at),
    forgetOutcomes: (before) => void statements.forgetOutcomes.run(before),

    object(kind, key) {
      const row = statements.object.get(kind, key)
      return row === undefined ? null : objectOf(row)
    },
    keepObject: ({ kind, key, revision, body, isDeleted }) =>
      void statements.keepObject.run(kind, key, revision, JSON.stringify(body), isDeleted ? 1 : 0),
    objectsOf: (kind) => statements.objectsOf.all(kind).map(objectOf),
    removeObject: (kind, key) => void statements.removeObject.run(kind, key),
    objectsAfter: (revision, limit) => statements.objectsAfter.all(revision, limit).map(objectOf),
    newestChange: () => newestOf(statements.newestChange.get()),
    keepChange: (revision, mark) => void statements.keepChange.run(revision, mark),
    changeMark: (revision) => (statements.changeMark.get(revision)?.mark as string | undefined) ?? null,

    picture: (id) => bodyOf<Picture>(statements.picture.get(id)),
    keepPicture: (picture) => void statements.keepPicture.run(picture.id, JSON.stringify(picture)),

    touch: (at) => void statements.keepIdentity.run('touched', String(at)),
  }
}

type Statements = ReturnType<typeof prepareStatements>

/** Each query is written with Kysely once, then prepared: building it anew for every sign-up costs more than running it. */
function prepareStatements(database: LibsqlDatabase, kysely: Kysely<Tables>) {
  const prepare = (query: Compilable): Statement => database.prepare(query.compile().sql)
  const any = '' as never
  return {
    identity: prepare(kysely.selectFrom('identity').select('value').where('key', '=', any)),
    keepIdentity: prepare(
      kysely
        .insertInto('identity')
        .values({ key: any, value: any })
        .onConflict((conflict) => conflict.column('key').doUpdateSet((of) => ({ value: of.ref('excluded.value') }))),
    ),
    newestEntry: prepare(kysely.selectFrom('journal').select(['n', 'mark']).orderBy('n', 'desc').limit(sql.lit(1))),
    append: prepare(kysely.insertInto('journal').values({ n: any, body: any, mark: any })),
    entriesAfter: prepare(kysely.selectFrom('journal').selectAll().where('n', '>', any).orderBy('n').limit(any)),
    markAt: prepare(kysely.selectFrom('journal').select('mark').where('n', '=', any)),
    member: prepare(kysely.selectFrom('members').select('body').where('id', '=', any)),
    memberWithAddress: prepare(
      kysely.selectFrom('members').select('body').where('list', '=', any).where('compared', '=', any),
    ),
    keepMember: database.prepare(
      `INSERT INTO members (id, list, compared, body, rank)
       VALUES (?, ?, ?, ?, (SELECT coalesce(max(rank), 0) + 1 FROM members WHERE list = ?))
       ON CONFLICT (id) DO UPDATE SET compared = excluded.compared, body = excluded.body`,
    ),
    keepRetry: prepare(kysely.insertInto('retries').values({ n: any, key: any })),
    forgetRetries: prepare(kysely.deleteFrom('retries').where('n', '<', any)),
    retries: prepare(
      kysely
        .selectFrom('retries')
        .innerJoin('journal', 'journal.n', 'retries.n')
        .select(['retries.key', 'journal.n', 'journal.body', 'journal.mark'])
        .orderBy('retries.n'),
    ),
    partOfSpace: prepare(kysely.selectFrom('spaces').select('body').where('space', '=', any).where('key', '=', any)),
    keepPartOfSpace: prepare(
      kysely
        .insertInto('spaces')
        .values({ space: any, key: any, body: any })
        .onConflict((conflict) =>
          conflict.columns(['space', 'key']).doUpdateSet((of) => ({ body: of.ref('excluded.body') })),
        ),
    ),
    partsOfSpace: prepare(
      kysely
        .selectFrom('spaces')
        .select('body')
        .where('space', '=', any)
        .where('key', '>=', any)
        .where('key', '<', any)
        .orderBy('key'),
    ),
    dropSpace: prepare(kysely.deleteFrom('spaces').where('space', '=', any)),
    dropSpaces: prepare(kysely.deleteFrom('spaces')),
    dropMailsOfSpace: prepare(kysely.deleteFrom('mails').where('space', '=', any)),
    dropMailsOfSpaces: prepare(kysely.deleteFrom('mails').where('space', '<>', sql.lit(''))),
    keepMail: prepare(
      kysely
        .insertInto('mails')
        .values({
          id: any,
          space: any,
          list: any,
          member: any,
          kind: any,
          recipient: any,
          compared: any,
          inbox: any,
          turn: any,
          queued: any,
          due: any,
          state: any,
          attempts: any,
          said: any,
          sent: any,
        })
        .onConflict((conflict) =>
          conflict.column('id').doUpdateSet((of) => ({
            due: of.ref('excluded.due'),
            state: of.ref('excluded.state'),
            attempts: of.ref('excluded.attempts'),
            said: of.ref('excluded.said'),
            sent: of.ref('excluded.sent'),
          })),
        ),
    ),
    // Asked and queued in one, for it is done for every sign-up that is confirmed.
    queueMail: database.prepare(
      `INSERT INTO mails (id, space, list, member, kind, recipient, compared, inbox, turn, queued, due, state, attempts, said, sent)
       SELECT ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 'waiting', 0, '', 0
       WHERE (SELECT count(*) FROM mails WHERE inbox = ? AND queued >= ?) < ?
       ON CONFLICT DO NOTHING`,
    ),
    mail: prepare(kysely.selectFrom('mails').selectAll().where('id', '=', any)),
    // By that index, and not by state and sorted, which costs with all that waits; in two, so that what waits for its day is not read through for what is due now.
    dueMails: database.prepare(
      `SELECT * FROM mails INDEXED BY mails_by_turn WHERE state = 'waiting' AND turn < ${LATER_TURN} AND due <= ? ORDER BY turn, due LIMIT ?`,
    ),
    dueLaterMails: database.prepare(
      `SELECT * FROM mails INDEXED BY mails_by_turn WHERE state = 'waiting' AND turn = ${LATER_TURN} AND due <= ? ORDER BY due LIMIT ?`,
    ),
    nextMailDue: prepare(
      kysely.selectFrom('mails').select('due').where('state', '=', sql.lit('waiting')).orderBy('due').limit(sql.lit(1)),
    ),
    mailsInHand: prepare(kysely.selectFrom('mails').selectAll().where('state', '=', sql.lit('sending'))),
    mailsInState: prepare(
      kysely
        .selectFrom('mails')
        .selectAll()
        .where('state', '=', any)
        .where('space', '=', sql.lit(''))
        .orderBy('due', 'desc')
        .limit(any),
    ),
    mailsOfSpace: prepare(kysely.selectFrom('mails').selectAll().where('space', '=', any).orderBy('queued')),
    countMails: prepare(
      kysely
        .selectFrom('mails')
        .select(({ fn }) => fn.countAll().as('count'))
        .where('state', '=', any)
        .where('space', '=', sql.lit('')),
    ),
    mailsSentSince: database.prepare(
      `SELECT sent / 1000 * 1000 AS at, count(*) AS count FROM mails WHERE state = 'sent' AND due >= ? GROUP BY 1`,
    ),
    newestBody: prepare(kysely.selectFrom('journal').select('body').orderBy('n', 'desc').limit(sql.lit(1))),
    forgetMails: prepare(
      kysely
        .deleteFrom('mails')
        .where('state', 'in', [sql.lit('sent'), sql.lit('refused'), sql.lit('dropped')])
        .where('due', '<', any),
    ),
    // By the index `journal_bounces`.
    bounces: database.prepare(
      `SELECT n, body, mark FROM journal WHERE json_extract(body, '$.kind') = 'member-bounced' ORDER BY n`,
    ),
    hurryMails: database.prepare(
      `UPDATE mails SET due = ?, attempts = 0 WHERE state = 'waiting' AND attempts > 0 AND due > ?`,
    ),
    // By the index `members_waiting`.
    listsWithWaiting: database.prepare(
      `SELECT DISTINCT list FROM members WHERE json_extract(body, '$.status') = 'waiting'`,
    ),
    waitingSince: database.prepare(
      `SELECT id FROM members
       WHERE json_extract(body, '$.status') = 'waiting' AND list = ? AND json_extract(body, '$.joinedAt') < ?
       ORDER BY json_extract(body, '$.joinedAt')`,
    ),
    downloadsOf: prepare(kysely.selectFrom('downloads').select('times').where('member', '=', any)),
    countDownload: prepare(
      kysely
        .insertInto('downloads')
        .values({ member: any, times: sql.lit(1) })
        .onConflict((conflict) => conflict.column('member').doUpdateSet({ times: sql`downloads.times + 1` })),
    ),
    membersJoinedOn: prepare(
      kysely
        .selectFrom('members')
        .select('body')
        .where('list', '=', any)
        .where(sql`json_extract(body, '$.joinedAt')`, 'like', any)
        .where(sql`json_extract(body, '$.status')`, '=', sql.lit('confirmed'))
        .limit(sql.lit(1000)),
    ),
    // By the index `members_by_rank`.
    rankOf: database.prepare('SELECT rank FROM members WHERE id = ?'),
    highestRank: database.prepare('SELECT max(rank) AS rank FROM members WHERE list = ?'),
    outcome: prepare(kysely.selectFrom('commands').select('outcome').where('id', '=', any)),
    keepOutcome: prepare(kysely.insertInto('commands').values({ id: any, outcome: any, at: any })),
    forgetOutcomes: prepare(kysely.deleteFrom('commands').where('at', '<', any)),
    object: prepare(kysely.selectFrom('objects').selectAll().where('kind', '=', any).where('key', '=', any)),
    keepObject: prepare(
      kysely
        .insertInto('objects')
        .values({ kind: any, key: any, revision: any, body: any, deleted: any })
        .onConflict((conflict) =>
          conflict.columns(['kind', 'key']).doUpdateSet((of) => ({
            revision: of.ref('excluded.revision'),
            body: of.ref('excluded.body'),
            deleted: of.ref('excluded.deleted'),
          })),
        ),
    ),
    objectsOf: prepare(kysely.selectFrom('objects').selectAll().where('kind', '=', any).orderBy('revision')),
    removeObject: prepare(kysely.deleteFrom('objects').where('kind', '=', any).where('key', '=', any)),
    objectsAfter: prepare(
      kysely.selectFrom('objects').selectAll().where('revision', '>', any).orderBy('revision').limit(any),
    ),
    newestChange: prepare(
      kysely.selectFrom('changes').select(['revision as n', 'mark']).orderBy('revision', 'desc').limit(sql.lit(1)),
    ),
    keepChange: prepare(kysely.insertInto('changes').values({ revision: any, mark: any })),
    changeMark: prepare(kysely.selectFrom('changes').select('mark').where('revision', '=', any)),
    picture: prepare(kysely.selectFrom('pictures').select('body').where('id', '=', any)),
    keepPicture: prepare(
      kysely
        .insertInto('pictures')
        .values({ id: any, body: any })
        .onConflict((conflict) => conflict.doNothing()),
    ),
  }
}
