import type { CommandOutcome } from '#core/api'
import type { ListId, MemberId } from '#core/ids'
import type { Entry, NewEntry, Verdict } from '#core/journal'
import type { Member, MemberStatus } from '#core/list'
import { type Generated, type Kysely, type Migration, sql } from 'kysely'
import { bodyOf, bound, endOf, type Newest, newestOf, numberKey, parsed, type Row, type SubjectTables } from '../store'
import { gatherPeople } from './gathering'
import type { MessageIntake } from '../messages/tables'
import type { WorkQueries } from '../work/tables'

interface Tables {
  /** `n` counts up without gaps: rows are only ever appended. `mark` tells one history from another. */
  journal: {
    n: Generated<number>
    kind: string
    /** The entry but for its personal part. */
    body: string
    /** Null where an entry tells nothing of a person, or no longer. */
    personal: string | null
    mark: string
  }
  /** The fold of the journal, kept beside it so that a sign-up need not read history. */
  members: {
    id: string
    list: string
    compared: string
    status: string
    /** ISO 8601. */
    joined_at: string
    body: string
    /** Counts up on each list, from 1, in the order in which they came. */
    rank: number
  }
  /** Outcomes of commands, with the time. */
  commands: { id: string; outcome: string; at: number }
  /** First answers, with what names who sent exactly what: keys have no order, so they are looked up in memory. */
  first_answers: { n: number; key: string; at: number; verdict: string; held: number }
  /** Keyed hashes of the addresses of those who were erased. */
  erased: { hash: string }
}

/** How long the same bytes from the same address repeat the first answer: a double click, a network's retry. */
export const RETRY_WINDOW_MS = 30_000

/** What came of a sign-up, or of a message without one. */
export type SignUpVerdict = Verdict | 'message-sent'

/** First answer to a sign-up, repeated for a retry. */
export interface FirstAnswer {
  /** The entry that came of it. */
  n: number
  /** When, in milliseconds since 1970. */
  at: number
  verdict: SignUpVerdict
  /** Whether the mail that it would have caused was held back. */
  isMailHeld: boolean
}

/** The journal. */
export interface PeopleHistory {
  newestEntry(): Promise<Newest>
  append(n: number, entry: NewEntry, mark: string): Promise<void>
  /** Oldest first. */
  entriesAfter(n: number, limit: number): Promise<{ entry: Entry; mark: string }[]>
  markAt(n: number): Promise<string | null>
  /** The journal's end and the member with an address, in one query: a sign-up is decided by both. */
  newestAndMember(list: string, compared: string | null): Promise<{ newest: Newest; member: Member | null }>
  member(id: MemberId): Promise<Member | null>
  memberWithAddress(list: string, compared: string): Promise<Member | null>
  keepMember(member: Member): Promise<void>
  /** The same for an existing member whose address and time of joining stay: half the work. */
  updateMember(member: Member): Promise<void>
  /** Deletes a member; journal entries stay. */
  dropMember(id: MemberId): Promise<void>
  /** @param retryKey names who sent exactly what */
  keepFirstAnswer(retryKey: string, answer: FirstAnswer): Promise<void>
  /** Those of entries after `n` and from a time on, oldest first. */
  firstAnswersAfter(n: number, from: number): Promise<{ key: string; answer: FirstAnswer }[]>
  /** Forgets first answers of entries before `n`, and outcomes of commands from before a time. */
  forgetAnswers(before: number, outcomesBefore: number): Promise<void>
}

/** The history of everybody, or of a rehearsal's made-up people alone, and the queue for what follows of it. */
export type PeopleStore = PeopleHistory & MessageIntake & Pick<WorkQueries, 'queue'>

/** What somebody will ask for, one by one. */
export interface ReadAhead {
  addresses?: readonly { list: string; compared: string }[]
  members?: readonly MemberId[]
  /** Of addresses that may have been erased. */
  hashes?: readonly string[]
}

export interface PeopleQueries extends PeopleHistory {
  /** Reads at once what is asked for in this transaction, where that is quicker: nothing else comes of it. */
  readAhead(what: ReadAhead): Promise<void>
  /**
   * Entries after a number as the inside of a JSON array, and the number of the last; null for none. Whoever pulls all of it
   * costs no reading and writing of each part.
   */
  entriesTextAfter(n: number, limit: number): Promise<{ n: number; text: string } | null>
  /** All entries that marked somebody as one whose address takes no mail, oldest first. */
  bounces(): Promise<Entry[]>
  /** Blanks an entry's personal part and its salt. Takes the entry as it is from then on. */
  blankEntry(n: number, entry: NewEntry): Promise<void>
  isErased(hash: string): Promise<boolean>
  keepErased(hash: string): Promise<void>
  /** Forgets outcomes of commands that have a text in them; resolves with how many. */
  dropOutcomesWith(text: string): Promise<number>
  outcome(id: string): Promise<CommandOutcome | null>
  keepOutcome(id: string, at: number, outcome: CommandOutcome): Promise<void>
  /** Everybody of a list whose number is higher, in order. */
  membersAfterRank(list: string, rank: number, limit: number): Promise<{ rank: number; member: Member }[]>
  /** Lists that somebody waits for, or did. */
  listsWithWaiting(): Promise<ListId[]>
  /** Members of a list who have been waiting since before a time, or who did; oldest first. */
  waitingSince(list: ListId, before: number): Promise<MemberId[]>
  /** Members of a list with a status, the longest on it first; at most some thousands. */
  membersWithStatus(list: ListId, status: MemberStatus): Promise<Member[]>
  /** Running number of a member on their list, from 1, gaps kept; null for no member. */
  rankOf(member: MemberId): Promise<number | null>
  /** The highest number that a list has given; 0 for none. */
  highestRank(list: string): Promise<number>
  /** Confirmed members of a list who joined on a day (UTC, ISO 8601); at most a thousand. */
  membersJoinedOn(list: string, day: string): Promise<Member[]>
}

const migrations: Record<string, Migration> = {
  '001-people': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('journal')
        .addColumn('n', numberKey(db), (column) => column.primaryKey())
        .addColumn('kind', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('personal', 'text')
        .addColumn('mark', 'text', (column) => column.notNull())
        .execute()
      // They are few, and looked for among all that ever happened.
      await db.schema
        .createIndex('journal_bounces')
        .on('journal')
        .column('n')
        .where(sql.ref('kind'), '=', sql.lit('member-bounced'))
        .execute()
      await db.schema
        .createTable('members')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('list', 'text', (column) => column.notNull())
        .addColumn('compared', 'text', (column) => column.notNull())
        .addColumn('status', 'text', (column) => column.notNull())
        .addColumn('joined_at', 'text', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addColumn('rank', 'bigint', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('members_by_address').on('members').columns(['list', 'compared']).unique().execute()
      await db.schema.createIndex('members_by_rank').on('members').columns(['list', 'rank']).unique().execute()
      // Who waits is known of each member; a table of its own cost every sign-up a row, and a refill had none.
      await db.schema
        .createIndex('members_waiting')
        .on('members')
        .columns(['list', 'joined_at'])
        .where(sql.ref('status'), '=', sql.lit('waiting'))
        .execute()
      await db.schema
        .createTable('commands')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('outcome', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('first_answers')
        .addColumn('n', numberKey(db), (column) => column.primaryKey())
        .addColumn('key', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('verdict', 'text', (column) => column.notNull())
        .addColumn('held', 'integer', (column) => column.notNull())
        .execute()
      await db.schema
        .createTable('erased')
        .addColumn('hash', 'text', (column) => column.primaryKey())
        .execute()
    },
  },
}

/** Number, kind, all but its personal part, that part, and its mark. */
export function rowOfEntry(n: number, entry: NewEntry, mark: string): [number, string, string, string | null, string] {
  const { personal = null, ...skeleton } = 'personal' in entry ? entry : { ...entry, personal: null }
  return [n, entry.kind, JSON.stringify(skeleton), personal === null ? null : JSON.stringify(personal), mark]
}

/** An entry as it is stored, with its mark. */
export const entryOf = (row: Row) => {
  const skeleton = parsed<NewEntry>(row.body)
  const isErased = 'commitment' in skeleton
  const personal = row.personal !== null ? { personal: parsed<unknown>(row.personal) } : isErased && { personal: null }
  return { entry: { n: Number(row.n), ...skeleton, ...personal } as Entry, mark: String(row.mark) }
}

/** An entry as JSON text, put together of what is stored. In a text within it the quotes of `commitment` would be escaped. */
const entryText = sql<string>`'{"n":' || n || ',' || substr(body, 2, length(body) - 2) || case
  when personal is not null then ',"personal":' || personal
  when body like '%"commitment":%' then ',"personal":null'
  else ''
end || '}'`

export const peopleTables: SubjectTables<PeopleQueries> = {
  migrations,
  gather: (queries, ask) => gatherPeople(queries, ask),
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      newestEntry: prepare(tables.selectFrom('journal').select(['n', 'mark']).orderBy('n', 'desc').limit(sql.lit(1))),
      append: prepare(
        tables.insertInto('journal').values({ n: bound, kind: bound, body: bound, personal: bound, mark: bound }),
      ),
      entriesAfter: prepare(
        tables
          .selectFrom('journal')
          .select(['n', 'body', 'personal', 'mark'])
          .where('n', '>', bound)
          .orderBy('n')
          .limit(bound),
      ),
      // Put together by the database: a row each costs the receiver more than all the rest of a pull.
      entriesTextAfter: prepare(
        tables
          .selectFrom((of) =>
            of
              .selectFrom('journal')
              .select(['n', entryText.as('entry')])
              .where('n', '>', bound)
              .orderBy('n')
              .limit(bound)
              .as('page'),
          )
          .select(({ fn }) => [fn.max('n').as('n'), sql<string>`string_agg(entry, ',' order by n)`.as('text')]),
      ),
      markAt: prepare(tables.selectFrom('journal').select('mark').where('n', '=', bound)),
      newestAndMember: prepare(
        tables.selectNoFrom((of) => [
          of.selectFrom('journal').select('n').orderBy('n', 'desc').limit(sql.lit(1)).as('n'),
          of.selectFrom('journal').select('mark').orderBy('n', 'desc').limit(sql.lit(1)).as('mark'),
          of.selectFrom('members').select('body').where('list', '=', bound).where('compared', '=', bound).as('member'),
        ]),
      ),
      member: prepare(tables.selectFrom('members').select('body').where('id', '=', bound)),
      memberWithAddress: prepare(
        tables.selectFrom('members').select('body').where('list', '=', bound).where('compared', '=', bound),
      ),
      keepMember: prepare(
        tables
          .insertInto('members')
          .values((of) => ({
            id: bound,
            list: bound,
            compared: bound,
            status: bound,
            joined_at: bound,
            body: bound,
            rank: of
              .selectFrom('members as same_list')
              .select(sql<number>`coalesce(max(rank), 0) + 1`.as('next'))
              .where('same_list.list', '=', bound),
          }))
          .onConflict((conflict) =>
            conflict.column('id').doUpdateSet((of) => ({
              compared: of.ref('excluded.compared'),
              status: of.ref('excluded.status'),
              joined_at: of.ref('excluded.joined_at'),
              body: of.ref('excluded.body'),
            })),
          ),
      ),
      updateMember: prepare(tables.updateTable('members').set({ status: bound, body: bound }).where('id', '=', bound)),
      dropMember: prepare(tables.deleteFrom('members').where('id', '=', bound)),
      keepFirstAnswer: prepare(
        tables.insertInto('first_answers').values({ n: bound, key: bound, at: bound, verdict: bound, held: bound }),
      ),
      firstAnswersAfter: prepare(
        tables.selectFrom('first_answers').selectAll().where('n', '>', bound).where('at', '>=', bound).orderBy('n'),
      ),
      forgetFirstAnswers: prepare(tables.deleteFrom('first_answers').where('n', '<', bound)),
      forgetOutcomes: prepare(tables.deleteFrom('commands').where('at', '<', bound)),
      // By the index `journal_bounces`.
      bounces: prepare(
        tables
          .selectFrom('journal')
          .select(['n', 'body', 'personal', 'mark'])
          .where('kind', '=', sql.lit('member-bounced'))
          .orderBy('n'),
      ),
      blankEntry: prepare(
        tables
          .updateTable('journal')
          .set({ body: bound, personal: sql<null>`null` })
          .where('n', '=', bound),
      ),
      isErased: prepare(tables.selectFrom('erased').select('hash').where('hash', '=', bound)),
      keepErased: prepare(
        tables
          .insertInto('erased')
          .values({ hash: bound })
          .onConflict((conflict) => conflict.doNothing()),
      ),
      dropOutcomesWith: prepare(tables.deleteFrom('commands').where(sql`lower(outcome)`, 'like', bound)),
      outcome: prepare(tables.selectFrom('commands').select('outcome').where('id', '=', bound)),
      keepOutcome: prepare(tables.insertInto('commands').values({ id: bound, outcome: bound, at: bound })),
      // By the index `members_by_rank`.
      membersAfterRank: prepare(
        tables
          .selectFrom('members')
          .select(['body', 'rank'])
          .where('list', '=', bound)
          .where('rank', '>', bound)
          .orderBy('rank')
          .limit(bound),
      ),
      // By the index `members_waiting`.
      listsWithWaiting: prepare(
        tables.selectFrom('members').select('list').distinct().where('status', '=', sql.lit('waiting')),
      ),
      waitingSince: prepare(
        tables
          .selectFrom('members')
          .select('id')
          .where('status', '=', sql.lit('waiting'))
          .where('list', '=', bound)
          .where('joined_at', '<', bound)
          .orderBy('joined_at'),
      ),
      // By the index `members_by_rank`, within one list.
      membersWithStatus: prepare(
        tables
          .selectFrom('members')
          .select('body')
          .where('list', '=', bound)
          .where('status', '=', bound)
          .orderBy('rank')
          .limit(sql.lit(5_000)),
      ),
      // By the index `members_by_rank`.
      rankOf: prepare(tables.selectFrom('members').select('rank').where('id', '=', bound)),
      highestRank: prepare(
        tables
          .selectFrom('members')
          .select(({ fn }) => fn.max('rank').as('rank'))
          .where('list', '=', bound),
      ),
      membersJoinedIn: prepare(
        tables
          .selectFrom('members')
          .select('body')
          .where('list', '=', bound)
          .where('joined_at', '>=', bound)
          .where('joined_at', '<', bound)
          .where('status', '=', sql.lit('confirmed'))
          .limit(sql.lit(1000)),
      ),
    }
    return {
      // A file answers at once.
      async readAhead() {},
      async newestEntry() {
        return newestOf(await statements.newestEntry.get())
      },
      async append(n, entry, mark) {
        await statements.append.run(...rowOfEntry(n, entry, mark))
      },
      async entriesAfter(n, limit) {
        return (await statements.entriesAfter.all(n, limit)).map(entryOf)
      },
      async entriesTextAfter(n, limit) {
        const row = await statements.entriesTextAfter.get(n, limit)
        return row === undefined || row.n === null ? null : { n: Number(row.n), text: String(row.text) }
      },
      async markAt(n) {
        return ((await statements.markAt.get(n))?.mark as string | undefined) ?? null
      },
      async newestAndMember(list, compared) {
        const row = await statements.newestAndMember.get(list, compared)
        return { newest: newestOf(row), member: typeof row?.member === 'string' ? parsed<Member>(row.member) : null }
      },
      async member(id) {
        return bodyOf<Member>(await statements.member.get(id))
      },
      async memberWithAddress(list, compared) {
        return bodyOf<Member>(await statements.memberWithAddress.get(list, compared))
      },
      async keepMember(member) {
        const { id, list, email, status, joinedAt } = member
        await statements.keepMember.run(id, list, email.compared, status, joinedAt, JSON.stringify(member), list)
      },
      async updateMember(member) {
        await statements.updateMember.run(member.status, JSON.stringify(member), member.id)
      },
      async dropMember(id) {
        await statements.dropMember.run(id)
      },
      async keepFirstAnswer(retryKey, { n, at, verdict, isMailHeld }) {
        await statements.keepFirstAnswer.run(n, retryKey, at, verdict, isMailHeld ? 1 : 0)
      },
      async firstAnswersAfter(n, from) {
        return (await statements.firstAnswersAfter.all(n, from)).map((row) => ({
          key: String(row.key),
          answer: {
            n: Number(row.n),
            at: Number(row.at),
            verdict: row.verdict as SignUpVerdict,
            isMailHeld: Number(row.held) === 1,
          },
        }))
      },
      async forgetAnswers(before, outcomesBefore) {
        await statements.forgetFirstAnswers.run(before)
        await statements.forgetOutcomes.run(outcomesBefore)
      },
      async bounces() {
        return (await statements.bounces.all()).map((row) => entryOf(row).entry)
      },
      async blankEntry(n, entry) {
        const { personal: _, ...skeleton } = entry as NewEntry & { personal?: unknown }
        await statements.blankEntry.run(JSON.stringify(skeleton), n)
      },
      async isErased(hash) {
        return (await statements.isErased.get(hash)) !== undefined
      },
      async keepErased(hash) {
        await statements.keepErased.run(hash)
      },
      async dropOutcomesWith(text) {
        // JSON as stored. Wildcards of LIKE match themselves, and a few rows too many.
        const pattern = `%${JSON.stringify(text.toLowerCase()).slice(1, -1).replaceAll('%', '_')}%`
        return (await statements.dropOutcomesWith.run(pattern)).changes
      },
      async outcome(id) {
        const row = await statements.outcome.get(id)
        return row === undefined ? null : parsed<CommandOutcome>(row.outcome)
      },
      async keepOutcome(id, at, outcome) {
        await statements.keepOutcome.run(id, JSON.stringify(outcome), at)
      },
      async membersAfterRank(list, rank, limit) {
        const rows = await statements.membersAfterRank.all(list, rank, limit)
        return rows.map((row) => ({ rank: Number(row.rank), member: parsed<Member>(row.body) }))
      },
      async listsWithWaiting() {
        return (await statements.listsWithWaiting.all()).map((row) => row.list as ListId)
      },
      async waitingSince(list, before) {
        const rows = await statements.waitingSince.all(list, new Date(before).toISOString())
        return rows.map((row) => row.id as MemberId)
      },
      async membersWithStatus(list, status) {
        return (await statements.membersWithStatus.all(list, status)).map((row) => parsed<Member>(row.body))
      },
      async rankOf(member) {
        const row = await statements.rankOf.get(member)
        return row === undefined ? null : Number(row.rank)
      },
      async highestRank(list) {
        return Number((await statements.highestRank.get(list))?.rank ?? 0)
      },
      async membersJoinedOn(list, day) {
        return (await statements.membersJoinedIn.all(list, day, endOf(day))).map((row) => parsed<Member>(row.body))
      },
    }
  },
}
