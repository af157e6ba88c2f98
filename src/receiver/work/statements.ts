import { sql } from 'kysely'
import { bound, type Database } from '../store'
import type { Tables } from './schema'

const real = sql.lit('')
const open = sql.lit('open')
const isTheirTurn = sql<boolean>`(order_key = '' or not exists (
  select 1 from queue as earlier
  where earlier.order_key = queue.order_key and earlier.order_key <> '' and earlier.worker = queue.worker
    and earlier.state = 'open' and (earlier.queued, earlier.id) < (queue.queued, queue.id)
))`
/** Bound values whose type no column tells. */
const asText = () => sql<string>`cast(${''} as text)`
const asNumber = () => sql<number>`cast(${0} as bigint)`

/** All that is asked of these tables, each prepared once. */
export function workStatements({ over, prepare }: Database) {
  const tables = over<Tables>()
  return {
    // Asked and queued in one, for it is done for every sign-up that is confirmed.
    queue: prepare(
      tables
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
          tables
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
                  .where('limit_key', '=', bound)
                  .where('queued', '>=', bound),
              '<',
              bound,
            ),
        )
        .onConflict((conflict) => conflict.doNothing()),
    ),
    job: prepare(tables.selectFrom('queue').selectAll().where('id', '=', bound)),
    keepJob: prepare(
      tables
        .updateTable('queue')
        .set({ due: bound, holder: bound, held_until: bound, state: bound, attempts: bound, said: bound })
        .where('id', '=', bound),
    ),
    dropJob: prepare(tables.deleteFrom('queue').where('id', '=', bound)),
    // Uses the index `queue_open`; sorting by state would cost with the whole queue. Two queries, so that jobs with a day of their own are not scanned for those due now.
    dueJobs: prepare(
      tables
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', open)
        .where('worker', '=', bound)
        .where('priority', '<', bound)
        .where('due', '<=', bound)
        .where('held_until', '<=', bound)
        .where(isTheirTurn)
        .orderBy('priority')
        .orderBy('due')
        .limit(bound),
    ),
    dueLaterJobs: prepare(
      tables
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', open)
        .where('worker', '=', bound)
        .where('priority', '>=', bound)
        .where('due', '<=', bound)
        .where('held_until', '<=', bound)
        .where(isTheirTurn)
        .orderBy('priority')
        .orderBy('due')
        .limit(bound),
    ),
    nextJobDue: prepare(
      tables
        .selectFrom('queue')
        .select('due')
        .where('state', '=', open)
        .where('worker', '=', bound)
        .where('held_until', '=', sql.lit(0))
        .where(isTheirTurn)
        .orderBy('due')
        .limit(sql.lit(1)),
    ),
    // By the index `queue_held`.
    nextLeaseEnd: prepare(
      tables
        .selectFrom('queue')
        .select(({ fn }) => fn.min('held_until').as('at'))
        .where('held_until', '>', sql.lit(0))
        .where('worker', '=', bound),
    ),
    takeJob: prepare(
      tables
        .updateTable('queue')
        .set({ holder: bound, held_until: bound, attempts: sql`attempts + 1` })
        .where('id', '=', bound)
        .where('state', '=', open)
        .where('due', '<=', bound)
        .where('held_until', '<=', bound),
    ),
    renewJobs: prepare(
      tables
        .updateTable('queue')
        .set({ held_until: bound })
        .where('held_until', '>', sql.lit(0))
        .where('holder', '=', bound),
    ),
    forgetLeases: prepare(
      tables
        .updateTable('queue')
        .set({ held_until: sql.lit(0) })
        .where('held_until', '>', sql.lit(0)),
    ),
    setBackJobs: prepare(
      tables
        .updateTable('queue')
        .set({ due: sql`due - ${bound}` })
        .where('state', '=', open)
        .where('due', '>', bound),
    ),
    shortenLeases: prepare(tables.updateTable('queue').set({ held_until: bound }).where('held_until', '>', bound)),
    jobsInState: prepare(
      tables
        .selectFrom('queue')
        .selectAll()
        .where('state', '=', bound)
        .where('worker', '=', bound)
        .where('space', '=', real)
        .orderBy('due', 'desc')
        .limit(bound),
    ),
    jobsOfSpace: prepare(tables.selectFrom('queue').selectAll().where('space', '=', bound).orderBy('queued')),
    dropJobsOfSpace: prepare(tables.deleteFrom('queue').where('space', '=', bound)),
    // By the index `queue_by_limit`.
    jobsWithLimitKey: prepare(
      tables
        .selectFrom('queue')
        .selectAll()
        .where('limit_key', '=', bound)
        .where('worker', '=', bound)
        .where('space', '=', real)
        .orderBy('queued', 'desc')
        .limit(bound),
    ),
    countJobs: prepare(tables.selectFrom('queue_counts').select(['state', 'count']).where('worker', '=', bound)),
    // By the index `queue_held`.
    countHeld: prepare(
      tables
        .selectFrom('queue')
        .select(({ fn }) => fn.countAll().as('count'))
        .where('held_until', '>', sql.lit(0))
        .where('worker', '=', bound)
        .where('space', '=', real),
    ),
    addToCount: prepare(
      tables
        .insertInto('queue_counts')
        .values({ worker: bound, state: bound, count: bound })
        .onConflict((conflict) =>
          conflict.columns(['worker', 'state']).doUpdateSet({ count: sql`queue_counts.count + excluded.count` }),
        ),
    ),
    countEnded: prepare(
      tables
        .selectFrom('queue')
        .select(({ fn }) => ['worker', 'state', fn.countAll().as('count')])
        .where('state', 'in', [sql.lit('done'), sql.lit('refused'), sql.lit('dropped')])
        .where('due', '<', bound)
        .where('space', '=', real)
        .groupBy(['worker', 'state']),
    ),
    jobsDoneSince: prepare(
      tables
        .selectFrom('queue')
        .select(({ fn }) => [sql<number>`due / 1000 * 1000`.as('at'), fn.countAll().as('count')])
        .where('state', '=', sql.lit('done'))
        .where('worker', '=', bound)
        .where('space', '=', real)
        .where('due', '>=', bound)
        .groupBy(sql`due / 1000`),
    ),
    forgetJobs: prepare(
      tables
        .deleteFrom('queue')
        .where('state', 'in', [sql.lit('done'), sql.lit('refused'), sql.lit('dropped')])
        .where('due', '<', bound),
    ),
    hurryJobs: prepare(
      tables
        .updateTable('queue')
        .set({ due: bound, attempts: sql.lit(0) })
        .where('state', '=', open)
        .where('worker', '=', bound)
        .where('holder', '=', real)
        .where('attempts', '>', sql.lit(0))
        .where('due', '>', bound),
    ),
    // By the index `queue_by_order`, and nothing else that another index would be taken for: keys say whose they are.
    countOrdered: prepare(
      tables
        .selectFrom('queue')
        .select(({ fn }) => ['worker', 'state', 'space', fn.countAll().as('count')])
        .where('order_key', '>=', bound)
        .where('order_key', '<', bound)
        .where('order_key', '<>', sql.lit(''))
        .groupBy(['worker', 'state', 'space']),
    ),
    dropOrdered: prepare(
      tables
        .deleteFrom('queue')
        .where('order_key', '>=', bound)
        .where('order_key', '<', bound)
        .where('order_key', '<>', sql.lit('')),
    ),
  }
}
