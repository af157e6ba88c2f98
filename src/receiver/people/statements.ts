import { sql } from 'kysely'
import { bound, type Database } from '../store'
import type { Tables } from './schema'

/** An entry as JSON text, put together of what is stored. In a text within it the quotes of `commitment` would be escaped. */
const entryText = sql<string>`'{"n":' || n || ',' || substr(body, 2, length(body) - 2) || case
  when personal is not null then ',"personal":' || personal
  when body like '%"commitment":%' then ',"personal":null'
  else ''
end || '}'`

/** All that is asked of these tables, each prepared once. */
export function peopleStatements({ over, prepare }: Database) {
  const tables = over<Tables>()
  return {
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
    corrections: prepare(
      tables
        .selectFrom('journal')
        .select(['n', 'body', 'personal', 'mark'])
        .where('kind', '=', sql.lit('member-corrected'))
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
    memberRowsAfter: prepare(
      tables.selectFrom('members').select(['id', 'body']).where('id', '>', bound).orderBy('id').limit(bound),
    ),
    countMembers: prepare(tables.selectFrom('members').select(({ fn }) => fn.countAll().as('count'))),
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
}
