import type { SpotId } from '#core/ids'
import type { SeenHour, SeenRow } from '#core/results'
import { type Kysely, sql } from 'kysely'
import { bound, type Row, type Step, type SubjectTables } from '../store'

interface Tables {
  /** How often forms were seen and begun: sums, of nobody. Days and hours by the clocks of the spot's site. */
  seen: {
    spot: string
    day: string
    version: number
    source: string
    device: string
    views: number
    starts: number
    set_aside: number
  }
  seen_hours: { spot: string; day: string; hour: number; views: number }
  /** Names of messages that were counted lately, so that one sent again is not counted twice. */
  beacons: { id: string; at: number }
}

export interface ResultQueries {
  /** Adds to how often a form was seen and begun. */
  countSeen(row: Required<SeenRow>): Promise<void>
  countSeenHour(row: SeenHour): Promise<void>
  /** Days, both included. */
  seenBetween(from: string, to: string): Promise<Required<SeenRow>[]>
  /** The same, all kinds of devices summed. */
  seenSums(from: string, to: string): Promise<SeenRow[]>
  /** One sum of each spot, version and source over all of those days. */
  seenOver(from: string, to: string): Promise<SeenRow[]>
  seenHoursBetween(from: string, to: string): Promise<SeenHour[]>
  /** What led to a spot on a day, so far. */
  seenSources(day: string, spot: SpotId, limit: number): Promise<string[]>
  /** The first day on which each spot was counted. */
  seenSince(): Promise<{ spot: SpotId; day: string }[]>
  /** False for a part of a view that was counted before. */
  takeBeacon(id: string, at: number): Promise<boolean>
  forgetBeacons(before: number): Promise<void>
}

const migrations: Record<string, Step> = {
  '001-results': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('seen')
        .addColumn('day', 'text', (column) => column.notNull())
        .addColumn('spot', 'text', (column) => column.notNull())
        .addColumn('version', 'integer', (column) => column.notNull())
        .addColumn('source', 'text', (column) => column.notNull())
        .addColumn('device', 'text', (column) => column.notNull())
        .addColumn('views', 'integer', (column) => column.notNull())
        .addColumn('starts', 'integer', (column) => column.notNull())
        .addColumn('set_aside', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('seen_key', ['day', 'spot', 'version', 'source', 'device'])
        .execute()
      await db.schema
        .createTable('seen_hours')
        .addColumn('day', 'text', (column) => column.notNull())
        .addColumn('hour', 'integer', (column) => column.notNull())
        .addColumn('spot', 'text', (column) => column.notNull())
        .addColumn('views', 'integer', (column) => column.notNull())
        .addPrimaryKeyConstraint('seen_hours_key', ['day', 'hour', 'spot'])
        .execute()
      await db.schema
        .createTable('beacons')
        .addColumn('id', 'text', (column) => column.primaryKey())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .execute()
      await db.schema.createIndex('beacons_by_time').on('beacons').column('at').execute()
    },
  },
  '005-seen-by-spot': {
    isCompatible: true,
    async up(db: Kysely<unknown>) {
      await db.schema.createIndex('seen_by_spot').on('seen').columns(['spot', 'day']).execute()
    },
  },
}

/** Sums come as texts from some engines. */
const seenOf = ({ views, starts, set_aside: setAside, ...row }: Row) =>
  ({ ...row, views: Number(views), starts: Number(starts), setAside: Number(setAside) }) as unknown as SeenRow

export const resultTables: SubjectTables<ResultQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      countSeen: prepare(
        tables
          .insertInto('seen')
          .values({
            ...{ day: bound, spot: bound, version: bound, source: bound, device: bound },
            ...{ views: bound, starts: bound, set_aside: bound },
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
        tables
          .insertInto('seen_hours')
          .values({ day: bound, hour: bound, spot: bound, views: bound })
          .onConflict((conflict) =>
            conflict.columns(['day', 'hour', 'spot']).doUpdateSet({ views: sql`seen_hours.views + excluded.views` }),
          ),
      ),
      seenBetween: prepare(
        tables.selectFrom('seen').selectAll().where('day', '>=', bound).where('day', '<=', bound).orderBy('day'),
      ),
      seenSums: prepare(
        tables
          .selectFrom('seen')
          .select(({ fn }) => [
            ...(['day', 'spot', 'version', 'source'] as const),
            fn.sum('views').as('views'),
            fn.sum('starts').as('starts'),
            fn.sum('set_aside').as('set_aside'),
          ])
          .where('day', '>=', bound)
          .where('day', '<=', bound)
          .groupBy(['day', 'spot', 'version', 'source']),
      ),
      seenOver: prepare(
        tables
          .selectFrom('seen')
          .select(({ fn }) => [
            ...(['spot', 'version', 'source'] as const),
            fn.sum('views').as('views'),
            fn.sum('starts').as('starts'),
            fn.sum('set_aside').as('set_aside'),
          ])
          .where('day', '>=', bound)
          .where('day', '<=', bound)
          .groupBy(['spot', 'version', 'source']),
      ),
      seenHoursBetween: prepare(
        tables.selectFrom('seen_hours').selectAll().where('day', '>=', bound).where('day', '<=', bound).orderBy('day'),
      ),
      seenSources: prepare(
        tables
          .selectFrom('seen')
          .select('source')
          .distinct()
          .where('day', '=', bound)
          .where('spot', '=', bound)
          .limit(bound),
      ),
      // From one spot to the next by the index: grouped, every row there is would be read.
      seenSince: prepare(
        tables
          .withRecursive('spots(spot)', (db) =>
            db
              .selectFrom('seen')
              .select(({ fn }) => fn.min<string | null>('spot').as('spot'))
              .unionAll((part) =>
                part
                  .selectFrom('spots')
                  .select((next) =>
                    next
                      .selectFrom('seen')
                      .select(({ fn }) => fn.min<string | null>('seen.spot').as('spot'))
                      .whereRef('seen.spot', '>', 'spots.spot')
                      .as('spot'),
                  )
                  .where('spots.spot', 'is not', null),
              ),
          )
          .selectFrom('spots')
          .select((each) => [
            'spots.spot',
            each
              .selectFrom('seen')
              .select(({ fn }) => fn.min('seen.day').as('day'))
              .whereRef('seen.spot', '=', 'spots.spot')
              .as('day'),
          ])
          .where('spots.spot', 'is not', null),
      ),
      takeBeacon: prepare(
        tables
          .insertInto('beacons')
          .values({ id: bound, at: bound })
          .onConflict((conflict) => conflict.column('id').doNothing()),
      ),
      forgetBeacons: prepare(tables.deleteFrom('beacons').where('at', '<', bound)),
    }
    return {
      async countSeen({ day, spot, version, source, device, views, starts, setAside }) {
        await statements.countSeen.run(day, spot, version, source, device, views, starts, setAside)
      },
      async countSeenHour({ day, hour, spot, views }) {
        await statements.countSeenHour.run(day, hour, spot, views)
      },
      async seenBetween(from, to) {
        return (await statements.seenBetween.all(from, to)).map(seenOf) as Required<SeenRow>[]
      },
      async seenSums(from, to) {
        return (await statements.seenSums.all(from, to)).map(seenOf)
      },
      async seenOver(from, to) {
        return (await statements.seenOver.all(from, to)).map((row) => seenOf({ ...row, day: from }))
      },
      async seenHoursBetween(from, to) {
        return (await statements.seenHoursBetween.all(from, to)) as unknown as SeenHour[]
      },
      async seenSources(day, spot, limit) {
        return (await statements.seenSources.all(day, spot, limit)).map(({ source }) => String(source))
      },
      async seenSince() {
        return (await statements.seenSince.all()) as unknown as { spot: SpotId; day: string }[]
      },
      async takeBeacon(id, at) {
        return (await statements.takeBeacon.run(id, at)).changes > 0
      },
      async forgetBeacons(before) {
        await statements.forgetBeacons.run(before)
      },
    }
  },
}
