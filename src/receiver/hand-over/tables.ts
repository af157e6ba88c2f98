import type { HandOverId, MemberId } from '#core/ids'
import { type Kysely, type Migration } from 'kysely'
import { bodyOf, bound, parsed, type SubjectTables } from '../store'

interface Tables {
  /** Result of each person's last hand-over: see `Handed`. */
  handed: { hand_over: string; member: string; state: string; at: number; body: string }
}

/** What somebody is at the other end of a hand-over, as far as is known. */
export type HandedState = 'there' | 'to-confirm' | 'off' | 'refused'

/** Result of a person's last hand-over. */
export interface Handed {
  handOver: HandOverId
  member: MemberId
  state: HandedState
  /** In milliseconds since 1970. */
  at: number
  /** What they were to be, hashed: the same is not handed over twice. */
  digest: string
  /** What the service answered, in its own words. */
  said: string
  /** All fields and tags ever sent, so that they can be removed there. */
  sent?: { keys: string[]; tags: string[] }
}

export interface HandOverQueries {
  handed(handOver: HandOverId, member: MemberId): Promise<Handed | null>
  handedOf(member: MemberId): Promise<Handed[]>
  keepHanded(handed: Handed): Promise<void>
  /** Deletes the hand-over records of a member. */
  dropHanded(member: MemberId): Promise<void>
  /** Forgets all of a hand-over that its owner took away. */
  dropHandOver(handOver: HandOverId): Promise<void>
  /** Newest first. */
  handedInState(handOver: HandOverId, state: HandedState, limit: number, skipped?: number): Promise<Handed[]>
  countHanded(handOver: HandOverId): Promise<Record<HandedState, number>>
}

const migrations: Record<string, Migration> = {
  '001-hand-over': {
    async up(db: Kysely<unknown>) {
      await db.schema
        .createTable('handed')
        .addColumn('hand_over', 'text', (column) => column.notNull())
        .addColumn('member', 'text', (column) => column.notNull())
        .addColumn('state', 'text', (column) => column.notNull())
        .addColumn('at', 'bigint', (column) => column.notNull())
        .addColumn('body', 'text', (column) => column.notNull())
        .addPrimaryKeyConstraint('handed_key', ['member', 'hand_over'])
        .execute()
      await db.schema.createIndex('handed_by_state').on('handed').columns(['hand_over', 'state', 'at']).execute()
    },
  },
}

export const handOverTables: SubjectTables<HandOverQueries> = {
  migrations,
  queries({ over, prepare }) {
    const tables = over<Tables>()
    const statements = {
      handed: prepare(
        tables.selectFrom('handed').select('body').where('member', '=', bound).where('hand_over', '=', bound),
      ),
      handedOf: prepare(tables.selectFrom('handed').select('body').where('member', '=', bound)),
      keepHanded: prepare(
        tables
          .insertInto('handed')
          .values({ hand_over: bound, member: bound, state: bound, at: bound, body: bound })
          .onConflict((conflict) =>
            conflict.columns(['member', 'hand_over']).doUpdateSet((of) => ({
              state: of.ref('excluded.state'),
              at: of.ref('excluded.at'),
              body: of.ref('excluded.body'),
            })),
          ),
      ),
      dropHanded: prepare(tables.deleteFrom('handed').where('member', '=', bound)),
      dropHandOver: prepare(tables.deleteFrom('handed').where('hand_over', '=', bound)),
      handedInState: prepare(
        tables
          .selectFrom('handed')
          .select('body')
          .where('hand_over', '=', bound)
          .where('state', '=', bound)
          .orderBy('at', 'desc')
          .limit(bound)
          .offset(bound),
      ),
      countHanded: prepare(
        tables
          .selectFrom('handed')
          .select(({ fn }) => ['state', fn.countAll().as('count')])
          .where('hand_over', '=', bound)
          .groupBy('state'),
      ),
    }
    return {
      async handed(handOver, member) {
        return bodyOf<Handed>(await statements.handed.get(member, handOver))
      },
      async handedOf(member) {
        return (await statements.handedOf.all(member)).map((row) => parsed<Handed>(row.body))
      },
      async keepHanded(handed) {
        const { handOver, member, state, at } = handed
        await statements.keepHanded.run(handOver, member, state, at, JSON.stringify(handed))
      },
      async dropHanded(member) {
        await statements.dropHanded.run(member)
      },
      async dropHandOver(handOver) {
        await statements.dropHandOver.run(handOver)
      },
      async handedInState(handOver, state, limit, skipped = 0) {
        return (await statements.handedInState.all(handOver, state, limit, skipped)).map((row) =>
          parsed<Handed>(row.body),
        )
      },
      async countHanded(handOver) {
        const counts = { there: 0, 'to-confirm': 0, off: 0, refused: 0 }
        for (const { state, count } of await statements.countHanded.all(handOver))
          counts[state as HandedState] = Number(count)
        return counts
      },
    }
  },
}
