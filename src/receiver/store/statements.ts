import { type Compilable, type Kysely, sql } from 'kysely'
import type { Tables } from './tables'

export type Row = Record<string, unknown>

/** A query that was prepared once. SQLite answers at once, a server later. */
export interface Statement {
  get(...values: unknown[]): Row | undefined | Promise<Row | undefined>
  all(...values: unknown[]): Row[] | Promise<Row[]>
  run(...values: unknown[]): { changes: number } | Promise<{ changes: number }>
}
export type Statements = ReturnType<typeof statementsOver>

/**
 * Every query, the same for each engine. Each is written with Kysely once, then prepared: building it anew for every
 * sign-up costs more than running it.
 *
 * @param prepareText prepares a query's text, in which placeholders stand as the dialect writes them: `?` or `$1`
 */
export function statementsOver(kysely: Kysely<Tables>, prepareText: (text: string) => Statement) {
  const prepare = (query: Compilable): Statement => prepareText(query.compile().sql)
  const any = '' as never
  const real = sql.lit('')
  const open = sql.lit('open')
  // By the index `queue_by_order`. Of those queued in the same millisecond, the lower id goes first.
  const isTheirTurn = sql<boolean>`(order_key = '' or not exists (
    select 1 from queue as earlier
    where earlier.order_key = queue.order_key and earlier.order_key <> '' and earlier.worker = queue.worker
      and earlier.state = 'open' and (earlier.queued, earlier.id) < (queue.queued, queue.id)
  ))`
  return {
    value: prepare(kysely.selectFrom('single_values').select(['body', 'until']).where('name', '=', any)),
    keepValue: prepare(
      kysely
        .insertInto('single_values')
        .values({ name: any, body: any, until: any })
        .onConflict((conflict) =>
          conflict
            .column('name')
            .doUpdateSet((of) => ({ body: of.ref('excluded.body'), until: of.ref('excluded.until') })),
        ),
    ),
    dropValue: prepare(kysely.deleteFrom('single_values').where('name', '=', any)),
    valuesNamed: prepare(
      kysely.selectFrom('single_values').selectAll().where('name', '>=', any).where('name', '<', any).orderBy('name'),
    ),
    forgetValues: prepare(kysely.deleteFrom('single_values').where('until', '<', any)),

    newestEntry: prepare(kysely.selectFrom('journal').select(['n', 'mark']).orderBy('n', 'desc').limit(sql.lit(1))),
    newestBody: prepare(kysely.selectFrom('journal').select('body').orderBy('n', 'desc').limit(sql.lit(1))),
    append: prepare(kysely.insertInto('journal').values({ n: any, kind: any, body: any, personal: any, mark: any })),
    entriesAfter: prepare(
      kysely
        .selectFrom('journal')
        .select(['n', 'body', 'personal', 'mark'])
        .where('n', '>', any)
        .orderBy('n')
        .limit(any),
    ),
    markAt: prepare(kysely.selectFrom('journal').select('mark').where('n', '=', any)),
    // By the index `journal_bounces`.
    bounces: prepare(
      kysely
        .selectFrom('journal')
        .select(['n', 'body', 'personal', 'mark'])
        .where('kind', '=', sql.lit('member-bounced'))
        .orderBy('n'),
    ),

    newestAndMember: prepare(
      kysely.selectNoFrom((of) => [
        of.selectFrom('journal').select('n').orderBy('n', 'desc').limit(sql.lit(1)).as('n'),
        of.selectFrom('journal').select('mark').orderBy('n', 'desc').limit(sql.lit(1)).as('mark'),
        of.selectFrom('members').select('body').where('list', '=', any).where('compared', '=', any).as('member'),
      ]),
    ),
    member: prepare(kysely.selectFrom('members').select('body').where('id', '=', any)),
    memberWithAddress: prepare(
      kysely.selectFrom('members').select('body').where('list', '=', any).where('compared', '=', any),
    ),
    keepMember: prepare(
      kysely
        .insertInto('members')
        .values((of) => ({
          id: any,
          list: any,
          compared: any,
          status: any,
          joined_at: any,
          body: any,
          rank: of
            .selectFrom('members as same_list')
            .select(sql<number>`coalesce(max(rank), 0) + 1`.as('next'))
            .where('same_list.list', '=', any),
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
    updateMember: prepare(kysely.updateTable('members').set({ status: any, body: any }).where('id', '=', any)),
    dropMember: prepare(kysely.deleteFrom('members').where('id', '=', any)),
    // By the index `members_waiting`.
    listsWithWaiting: prepare(
      kysely.selectFrom('members').select('list').distinct().where('status', '=', sql.lit('waiting')),
    ),
    waitingSince: prepare(
      kysely
        .selectFrom('members')
        .select('id')
        .where('status', '=', sql.lit('waiting'))
        .where('list', '=', any)
        .where('joined_at', '<', any)
        .orderBy('joined_at'),
    ),
    membersJoinedIn: prepare(
      kysely
        .selectFrom('members')
        .select('body')
        .where('list', '=', any)
        .where('joined_at', '>=', any)
        .where('joined_at', '<', any)
        .where('status', '=', sql.lit('confirmed'))
        .limit(sql.lit(1000)),
    ),
    // By the index `members_by_rank`, within one list.
    membersWithStatus: prepare(
      kysely
        .selectFrom('members')
        .select('body')
        .where('list', '=', any)
        .where('status', '=', any)
        .orderBy('rank')
        .limit(sql.lit(5_000)),
    ),
    // By the index `members_by_rank`.
    membersAfterRank: prepare(
      kysely
        .selectFrom('members')
        .select(['body', 'rank'])
        .where('list', '=', any)
        .where('rank', '>', any)
        .orderBy('rank')
        .limit(any),
    ),
    // By the index `members_by_rank`.
    rankOf: prepare(kysely.selectFrom('members').select('rank').where('id', '=', any)),
    highestRank: prepare(
      kysely
        .selectFrom('members')
        .select(({ fn }) => fn.max('rank').as('rank'))
        .where('list', '=', any),
    ),
    batch: prepare(kysely.selectFrom('batches').select('body').where('id', '=', any)),
    stagedBatches: prepare(kysely.selectFrom('batches').select('body').where('state', '=', sql.lit('staging'))),
    keepBatch: prepare(
      kysely
        .insertInto('batches')
        .values({ id: any, state: any, body: any })
        .onConflict((conflict) =>
          conflict
            .column('id')
            .doUpdateSet((of) => ({ state: of.ref('excluded.state'), body: of.ref('excluded.body') })),
        ),
    ),
    batchChunk: prepare(
      kysely.selectFrom('batch_chunks').select('body').where('batch', '=', any).where('number', '=', any),
    ),
    keepBatchChunk: prepare(
      kysely
        .insertInto('batch_chunks')
        .values({ batch: any, number: any, body: any })
        .onConflict((conflict) =>
          conflict.columns(['batch', 'number']).doUpdateSet((of) => ({ body: of.ref('excluded.body') })),
        ),
    ),
    dropBatchChunks: prepare(kysely.deleteFrom('batch_chunks').where('batch', '=', any)),
    blankEntry: prepare(
      kysely
        .updateTable('journal')
        .set({ body: any, personal: sql<null>`null` })
        .where('n', '=', any),
    ),
    isErased: prepare(kysely.selectFrom('erased').select('hash').where('hash', '=', any)),
    keepErased: prepare(
      kysely
        .insertInto('erased')
        .values({ hash: any })
        .onConflict((conflict) => conflict.doNothing()),
    ),
    dropJob: prepare(kysely.deleteFrom('queue').where('id', '=', any)),
    dropDownloads: prepare(kysely.deleteFrom('downloads').where('member', '=', any)),
    dropOutcomesWith: prepare(kysely.deleteFrom('commands').where(sql`lower(outcome)`, 'like', any)),
    downloadsOf: prepare(kysely.selectFrom('downloads').select(['times', 'last']).where('member', '=', any)),
    countDownload: prepare(
      kysely
        .insertInto('downloads')
        .values({ member: any, times: sql.lit(1), last: any })
        .onConflict((conflict) =>
          conflict
            .column('member')
            .doUpdateSet((of) => ({ times: sql`downloads.times + 1`, last: of.ref('excluded.last') })),
        ),
    ),

    keepFirstAnswer: prepare(
      kysely.insertInto('first_answers').values({ n: any, key: any, at: any, verdict: any, held: any }),
    ),
    firstAnswersAfter: prepare(
      kysely.selectFrom('first_answers').selectAll().where('n', '>', any).where('at', '>=', any).orderBy('n'),
    ),
    forgetFirstAnswers: prepare(kysely.deleteFrom('first_answers').where('n', '<', any)),
    outcome: prepare(kysely.selectFrom('commands').select('outcome').where('id', '=', any)),
    keepOutcome: prepare(kysely.insertInto('commands').values({ id: any, outcome: any, at: any })),
    forgetOutcomes: prepare(kysely.deleteFrom('commands').where('at', '<', any)),

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
    dropJobsOfSpace: prepare(kysely.deleteFrom('queue').where('space', '=', any)),

    // Asked and queued in one, for it is done for every sign-up that is confirmed.
    queue: prepare(
      kysely
        .insertInto('queue')
        .columns([
          'id',
          'worker',
          'space',
          'priority',
          'order_key',
          'limit_key',
          'queued',
          'due',
          'holder',
          'held_until',
          'state',
          'attempts',
          'said',
          'body',
        ])
        .expression(
          kysely
            .selectNoFrom(() => [
              asText().as('id'),
              asText().as('worker'),
              asText().as('space'),
              asNumber().as('priority'),
              asText().as('order_key'),
              asText().as('limit_key'),
              asNumber().as('queued'),
              asNumber().as('due'),
              sql.lit('').as('holder'),
              sql.lit(0).as('held_until'),
              open.as('state'),
              sql.lit(0).as('attempts'),
              sql.lit('').as('said'),
              asText().as('body'),
            ])
            .where(
              (of) =>
                of
                  .selectFrom('queue')
                  .select(({ fn }) => fn.countAll<number>().as('count'))
                  .where('limit_key', '=', any)
                  .where('queued', '>=', any),
              '<',
              any,
            ),
        )
        .onConflict((conflict) => conflict.doNothing()),
    ),
    job: prepare(kysely.selectFrom('queue').selectAll().where('id', '=', any)),
    keepJob: prepare(
      kysely
        .updateTable('queue')
        .set({ due: any, holder: any, held_until: any, state: any, attempts: any, said: any })
        .where('id', '=', any),
    ),
    // By the index `queue_open`, and not by state and sorted, which costs with all that waits; in two, so that what waits for its day is not read through for what is due now.
    dueJobs: prepare(
      kysely
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', open)
        .where('worker', '=', any)
        .where('priority', '<', any)
        .where('due', '<=', any)
        .where('held_until', '<=', any)
        .where(isTheirTurn)
        .orderBy('priority')
        .orderBy('due')
        .limit(any),
    ),
    dueLaterJobs: prepare(
      kysely
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', open)
        .where('worker', '=', any)
        .where('priority', '=', any)
        .where('due', '<=', any)
        .where('held_until', '<=', any)
        .where(isTheirTurn)
        .orderBy('due')
        .limit(any),
    ),
    nextJobDue: prepare(
      kysely
        .selectFrom('queue')
        .select('due')
        .where('state', '=', open)
        .where('worker', '=', any)
        .where('held_until', '=', sql.lit(0))
        .where(isTheirTurn)
        .orderBy('due')
        .limit(sql.lit(1)),
    ),
    // By the index `queue_held`.
    nextLeaseEnd: prepare(
      kysely
        .selectFrom('queue')
        .select(({ fn }) => fn.min('held_until').as('at'))
        .where('held_until', '>', sql.lit(0))
        .where('worker', '=', any),
    ),
    takeJob: prepare(
      kysely
        .updateTable('queue')
        .set({ holder: any, held_until: any, attempts: sql`attempts + 1` })
        .where('id', '=', any)
        .where('state', '=', open)
        .where('due', '<=', any)
        .where('held_until', '<=', any),
    ),
    renewJobs: prepare(
      kysely
        .updateTable('queue')
        .set({ held_until: any })
        .where('held_until', '>', sql.lit(0))
        .where('holder', '=', any),
    ),
    forgetLeases: prepare(
      kysely
        .updateTable('queue')
        .set({ held_until: sql.lit(0) })
        .where('held_until', '>', sql.lit(0)),
    ),
    setBackJobs: prepare(
      kysely
        .updateTable('queue')
        .set({ due: sql`due - ${any}` })
        .where('state', '=', open)
        .where('due', '>', any),
    ),
    shortenLeases: prepare(kysely.updateTable('queue').set({ held_until: any }).where('held_until', '>', any)),
    jobsInState: prepare(
      kysely
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', any)
        .where('worker', '=', any)
        .where('space', '=', real)
        .orderBy('due', 'desc')
        .limit(any),
    ),
    jobsOfSpace: prepare(kysely.selectFrom('queue').selectAll().where('space', '=', any).orderBy('queued')),
    // By the index `queue_by_limit`.
    jobsWithLimitKey: prepare(
      kysely
        .selectFrom('queue')
        .selectAll()
        .where('limit_key', '=', any)
        .where('worker', '=', any)
        .where('space', '=', real)
        .orderBy('queued', 'desc')
        .limit(any),
    ),
    countJobs: prepare(
      kysely
        .selectFrom('queue')
        .select(({ fn }) => ['state', sql<boolean>`holder <> ''`.as('held'), fn.countAll().as('count')])
        .where('worker', '=', any)
        .where('space', '=', real)
        .groupBy(['state', sql`holder <> ''`]),
    ),
    jobsDoneSince: prepare(
      kysely
        .selectFrom('queue')
        .select(({ fn }) => [sql<number>`due / 1000 * 1000`.as('at'), fn.countAll().as('count')])
        .where('state', '=', sql.lit('done'))
        .where('worker', '=', any)
        .where('space', '=', real)
        .where('due', '>=', any)
        .groupBy(sql`due / 1000`),
    ),
    forgetJobs: prepare(
      kysely
        .deleteFrom('queue')
        .where('state', 'in', [sql.lit('done'), sql.lit('refused'), sql.lit('dropped')])
        .where('due', '<', any),
    ),
    hurryJobs: prepare(
      kysely
        .updateTable('queue')
        .set({ due: any, attempts: sql.lit(0) })
        .where('state', '=', open)
        .where('worker', '=', any)
        .where('holder', '=', real)
        .where('attempts', '>', sql.lit(0))
        .where('due', '>', any),
    ),

    // By the index `queue_by_order`, and nothing else that another index would be taken for: keys say whose they are.
    countOrdered: prepare(
      kysely
        .selectFrom('queue')
        .select(({ fn }) => fn.countAll().as('count'))
        .where('order_key', '>=', any)
        .where('order_key', '<', any)
        .where('order_key', '<>', sql.lit('')),
    ),
    dropOrdered: prepare(
      kysely
        .deleteFrom('queue')
        .where('order_key', '>=', any)
        .where('order_key', '<', any)
        .where('order_key', '<>', sql.lit('')),
    ),
    handed: prepare(kysely.selectFrom('handed').select('body').where('member', '=', any).where('hand_over', '=', any)),
    handedOf: prepare(kysely.selectFrom('handed').select('body').where('member', '=', any)),
    keepHanded: prepare(
      kysely
        .insertInto('handed')
        .values({ hand_over: any, member: any, state: any, at: any, body: any })
        .onConflict((conflict) =>
          conflict.columns(['member', 'hand_over']).doUpdateSet((of) => ({
            state: of.ref('excluded.state'),
            at: of.ref('excluded.at'),
            body: of.ref('excluded.body'),
          })),
        ),
    ),
    dropHanded: prepare(kysely.deleteFrom('handed').where('member', '=', any)),
    dropHandOver: prepare(kysely.deleteFrom('handed').where('hand_over', '=', any)),
    handedInState: prepare(
      kysely
        .selectFrom('handed')
        .select('body')
        .where('hand_over', '=', any)
        .where('state', '=', any)
        .orderBy('at', 'desc')
        .limit(any)
        .offset(any),
    ),
    countHanded: prepare(
      kysely
        .selectFrom('handed')
        .select(({ fn }) => ['state', fn.countAll().as('count')])
        .where('hand_over', '=', any)
        .groupBy('state'),
    ),

    countSeen: prepare(
      kysely
        .insertInto('seen')
        .values({
          ...{ day: any, spot: any, version: any, source: any, device: any },
          ...{ views: any, starts: any, set_aside: any },
        })
        .onConflict((conflict) =>
          conflict.columns(['day', 'spot', 'version', 'source', 'device']).doUpdateSet({
            views: sql`seen.views + excluded.views`,
            starts: sql`seen.starts + excluded.starts`,
            set_aside: sql`seen.set_aside + excluded.set_aside`,
          }),
        ),
    ),
    countSeenHour: prepare(
      kysely
        .insertInto('seen_hours')
        .values({ day: any, hour: any, spot: any, views: any })
        .onConflict((conflict) =>
          conflict.columns(['day', 'hour', 'spot']).doUpdateSet({ views: sql`seen_hours.views + excluded.views` }),
        ),
    ),
    seenBetween: prepare(
      kysely.selectFrom('seen').selectAll().where('day', '>=', any).where('day', '<=', any).orderBy('day'),
    ),
    seenSums: prepare(
      kysely
        .selectFrom('seen')
        .select(({ fn }) => [
          ...(['day', 'spot', 'version', 'source'] as const),
          fn.sum('views').as('views'),
          fn.sum('starts').as('starts'),
          fn.sum('set_aside').as('set_aside'),
        ])
        .where('day', '>=', any)
        .where('day', '<=', any)
        .groupBy(['day', 'spot', 'version', 'source']),
    ),
    seenHoursBetween: prepare(
      kysely.selectFrom('seen_hours').selectAll().where('day', '>=', any).where('day', '<=', any).orderBy('day'),
    ),
    seenSources: prepare(
      kysely.selectFrom('seen').select('source').distinct().where('day', '=', any).where('spot', '=', any).limit(any),
    ),
    seenSince: prepare(
      kysely
        .selectFrom('seen')
        .select(({ fn }) => ['spot', fn.min('day').as('day')])
        .groupBy('spot'),
    ),
    takeBeacon: prepare(
      kysely
        .insertInto('beacons')
        .values({ id: any, at: any })
        .onConflict((conflict) => conflict.column('id').doNothing()),
    ),
    forgetBeacons: prepare(kysely.deleteFrom('beacons').where('at', '<', any)),

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

/** What is bound where no column says of which type it is. */
const asText = () => sql<string>`cast(${''} as text)`
const asNumber = () => sql<number>`cast(${0} as bigint)`
